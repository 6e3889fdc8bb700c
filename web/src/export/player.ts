import wasmUrl from '@/generated/core.wasm?url'
import { assetAt } from '@/net/assets'
import type { Played } from '@/player/element'
import { fileOf } from './pieces'
import type { Into, Writer } from './writers'
import { Zipped } from './zipped'

/** A page to begin with: it needs nothing but what lies beside it. */
const page = (name: string): string => `<!doctype html>
<html lang="en">
  <head>
    <meta charset="utf-8" />
    <meta name="viewport" content="width=device-width, initial-scale=1" />
    <title>${name.replace(/[&<>]/g, (c) => `&#${c.charCodeAt(0)};`)}</title>
    <link rel="stylesheet" href="page.css" />
    <script type="module" src="player.js"></script>
  </head>
  <body>
    <wunderkammer-player src="." autoplay loop></wunderkammer-player>
  </body>
</html>
`

const style = (width: number, height: number): string => `body { margin: 0; background: #1d1b22 }
wunderkammer-player { max-width: 100vw; max-height: 100vh; aspect-ratio: ${width} / ${height}; margin: auto }
`

async function got(address: string): Promise<{ bytes: Uint8Array; type: string }> {
  const answer = await fetch(address)
  if (!answer.ok) throw new Error('a part of the player could not be loaded. Check the connection and try again')
  return { bytes: new Uint8Array(await answer.arrayBuffer()), type: answer.headers.get('Content-Type') ?? '' }
}

/** A folder for any web server, in a zip: the player, the composition with its pictures, and a still picture. */
export function player({ canvas, to, name, project, composition, catalogue }: Into): Writer {
  const zip = new Zipped(to)
  const text = (file: string, content: string): Promise<void> => zip.add(file, new TextEncoder().encode(content), false)
  return {
    add: async () => zip.add('still.webp', await fileOf(canvas, 'image/webp', 0.9), true),
    async end() {
      const wanted = new Set([composition]) // and what its pieces show, and theirs
      const by = new Map(project.compositions.map((c) => [c.id, c]))
      for (const id of wanted) for (const item of by.get(id)?.items ?? []) if (item.piece) wanted.add(item.piece.composition)
      const compositions = project.compositions.filter((c) => wanted.has(c.id))
      const assets: Played['assets'] = {}
      const used = new Set(compositions.flatMap((c) => c.items.flatMap((item) => (item.frames ?? []).map((frame) => frame.asset))))
      for (const id of used) {
        const { bytes, type } = await got(assetAt(id))
        assets[id] = `assets/${id}.${type.replace(/^image\/|\+.*$/g, '').replace('jpeg', 'jpg')}`
        await zip.add(assets[id], bytes, true)
      }
      const { befores: _, recipes: __, sets: ___, ...rest } = project
      const played: Played = { project: { ...rest, compositions }, composition, catalogue, assets }
      await text('composition.json', JSON.stringify(played))
      const files = JSON.parse(new TextDecoder().decode((await got('/player/files.json')).bytes)) as string[]
      for (const file of files) await zip.add(file, (await got(`/player/${file}`)).bytes, false)
      await zip.add('core.wasm', (await got(wasmUrl)).bytes, false)
      const { width = 1280, height = 720 } = by.get(composition) ?? {}
      await text('index.html', page(name))
      await text('page.css', style(width, height))
      await zip.end()
    },
    drop: () => zip.drop(),
  }
}
