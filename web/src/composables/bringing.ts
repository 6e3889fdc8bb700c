import { ref } from 'vue'
import { fromBase64, toBase64 } from '@/core/base64'
import { core } from '@/core/client'
import type { Id, ItemKind, PictureFrame, Point3, Sound } from '@/core/types'
import { api, type StoredPicture } from '@/net/api'
import { useDocument } from '@/stores/document'
import { usePlayback } from '@/stores/playback'
import { useSelection } from '@/stores/selection'
import { useParts } from './parts'
import { acceptOf, sorted, type FileSort } from './fileSorts'
import { hear } from './hearing'
import { message, report, said, sentence, tell } from './notify'

/** A file that is on its way in. */
export interface Arrival {
  name: string
  done: number
  of: number
}

const progress = ref<Arrival | null>(null)
let stop: AbortController | null = null

/** What files are chosen for. */
interface Wanted {
  /** The item that is to show or to play them, in place of what it has. */
  target?: Id
  /** Only files of this sort; of those for an item, pictures where none is said. */
  sort?: FileSort
}

/** What is asked before pictures become items. */
export interface Question {
  files: File[]
  place?: Point3
  target?: Id
  /** A picture that is there, and is to be cut into frames. */
  cut?: Id
}
const question = ref<Question | null>(null)

const byName = (files: File[]): File[] => [...files].sort((a, b) => a.name.localeCompare(b.name, undefined, { numeric: true }))
const stem = (name: string): string => name.replace(/\.[^.]*$/, '')

/** Bringing in files: SVG as items, pictures and flipbooks as they are. */
export function useBringing() {
  const doc = useDocument()
  const partsOf = useParts()
  const selection = useSelection()
  const playback = usePlayback()

  /** Lets the user choose files. */
  function choose(wanted: Wanted = {}): void {
    const { target, sort } = wanted
    // Browsers open a chooser only right after a press; what was typed ahead of its field is none.
    if (!navigator.userActivation.isActive) return said('Choose the file to import.', () => choose(wanted), 'Choose…')
    const input = document.createElement('input')
    input.type = 'file'
    input.multiple = !(sort && target)
    input.accept = sort || target ? acceptOf(sort ?? 'picture') : acceptOf()
    input.addEventListener('change', () => void bring([...(input.files ?? [])], undefined, wanted))
    input.click()
  }

  /** Brings in files; several pictures at once, and animations, are asked about. What can't be read is told, and the rest is brought. */
  async function bring(files: File[], place?: Point3, { target, sort }: Wanted = {}): Promise<void> {
    const forced = target || (sort && sort !== 'model') ? (sort ?? 'picture') : undefined
    const all = forced ? files.map((file) => ({ file, sort: forced, parts: [] })) : await sorted(files)
    const refused: string[] = []
    for (const { file, sort, parts } of all) {
      if (sort === 'picture') continue
      try {
        await brings[sort](file, { place, target, parts })
      } catch (error) {
        refused.push(`${file.name}: ${(error as Error).message}`)
      }
    }
    if (refused.length > 1) report(`${refused.length} files could not be imported`, refused)
    else if (refused[0]) tell(new Error(`Can’t import ${refused[0]}`))
    const pictures = all.filter((a) => a.sort === 'picture').map((a) => a.file)
    if (pictures.length === 0) return
    if (pictures.length > 1 || /gif$/.test(pictures[0]?.type ?? '') || target) question.value = { files: pictures, place, target }
    else await asItems(pictures, place)
  }

  /** How a file of each sort comes in; why it can't is thrown. */
  const brings: Record<Exclude<FileSort, 'picture'>, (file: File, how: { place?: Point3; target?: Id; parts: File[] }) => Promise<void>> = {
    project: async (file) => void (await partsOf.bring(file)),
    async drawing(file, { place }) {
      const done = await doc.gesture('bring svg', { text: await file.text(), name: file.name, place })
      if (done?.made?.[0]) selection.pick(done.made[0])
    },
    sound: (file, { target }) => asSound(file, target),
    table: (file, { target }) => asTable(file, target),
    model: (file, { place, parts }) => withPictures('bring model', file, parts, place),
    lottie: (file, { place, parts }) => withPictures('bring lottie', file, parts, place),
  }

  /** Keeps pictures on the server, with progress; null where it was cancelled or failed. */
  async function keep(files: File[]): Promise<StoredPicture[][] | null> {
    stop = new AbortController()
    const { signal } = stop
    const out: StoredPicture[][] = []
    try {
      for (const [i, file] of files.entries()) {
        progress.value = { name: file.name, done: i, of: files.length }
        try {
          out.push((await api.keep(file)).frames)
        } catch (error) {
          throw new Error(`Can’t import ${file.name}: ${error instanceof Error ? error.message : String(error)}`, { cause: error })
        }
        if (signal.aborted) return null
      }
      return out
    } catch (error) {
      tell(error)
      return null
    } finally {
      progress.value = null
    }
  }

  /** A sound that begins at the playhead, or one that an item plays in place of its own; why there can be none is thrown. */
  async function asSound(file: File, target?: Id): Promise<void> {
    progress.value = { name: file.name, done: 0, of: 1 }
    let sound: Sound
    try {
      sound = await hear(file, doc.catalogue.longest)
    } finally {
      progress.value = null
    }
    const asset = (await keep([file]))?.[0]?.[0]?.id
    if (!asset) return
    if (target) {
      const start = doc.items.get(target)?.sound?.start ?? 0
      return void (await doc.operations({ op: 'item.sound', item: target, sound: { ...sound, asset, start } }))
    }
    const done = await doc.gesture('add', { kind: 'sound', name: stem(file.name), sound: { ...sound, asset, start: playback.frame } })
    if (done?.made?.[0]) selection.pick(done.made[0])
  }

  /** Items of a file with pictures inside: first these are kept, then items are made that show them. */
  async function withPictures(gesture: 'bring model' | 'bring lottie', file: File, parts: File[], place?: Point3): Promise<void> {
    const size = [file, ...parts].reduce((sum, f) => sum + f.size, 0)
    const most = doc.catalogue.largestModel
    if (size > most)
      throw new Error(`it has ${Math.round(size / 2 ** 20)} MB; the limit is ${most >> 20}. Simplify it, or make its pictures smaller.`)
    const bytes = async (f: File): Promise<string> => toBase64(new Uint8Array(await f.arrayBuffer()))
    const whole = {
      file: await bytes(file),
      parts: Object.fromEntries(await Promise.all(parts.map(async (f) => [f.name, await bytes(f)]))),
    }
    const { result, error } = await core.ask('pictures in', { lottie: gesture === 'bring lottie', ...whole })
    if (!result) throw new Error(sentence(error ?? 'it could not be read. Try again.'))
    const shown = result.flatMap((p, n) =>
      p.data ? [{ n, file: new File([fromBase64(p.data)], p.name || `${file.name}, picture ${n + 1}`, { type: p.type }) }] : [],
    )
    const kept = await keep(shown.map((s) => s.file))
    if (!kept) return
    const pictures = result.map((_, n) => kept[shown.findIndex((s) => s.n === n)]?.[0]?.id ?? '')
    const done =
      gesture === 'bring lottie'
        ? await doc.gesture(gesture, { file: whole.file, name: file.name, pictures, place })
        : await doc.gesture(gesture, { ...whole, name: file.name, pictures, place })
    if (done?.made?.[0]) selection.pick(done.made[0])
  }

  /** A table of a file, or one that an item holds in place of its own; why there can be none is thrown. */
  async function asTable(file: File, target?: Id): Promise<void> {
    if (file.size > doc.catalogue.largestTable)
      throw new Error(`it has ${Math.round(file.size / 2 ** 20)} MB. Cut out the part that you need.`)
    const bytes = new Uint8Array(await file.arrayBuffer())
    const { result, error } = await core.ask('read table', { file: toBase64(bytes), name: file.name })
    if (!result?.table) throw new Error(sentence(error ?? 'it could not be read. Try again.'))
    const { table, notes } = result
    const done = target
      ? await doc.gesture('replace table', { item: target, table })
      : await doc.gesture('add', { kind: 'table', name: stem(file.name), table })
    if (!target && done?.made?.[0]) selection.pick(done.made[0])
    if (done && notes.length) report(`${file.name} was read, with gaps filled in`, notes)
  }

  async function add(
    kind: ItemKind,
    name: string,
    frames: PictureFrame[],
    size: [number, number],
    place?: Point3,
  ): Promise<Id | undefined> {
    const done = await doc.gesture('add', { kind, name, frames, size, place })
    return done?.made?.[0]
  }

  /** Each file an item of its own. */
  async function asItems(files: File[], place?: Point3): Promise<void> {
    const kept = await keep(byName(files))
    const made: Id[] = []
    const names = byName(files).map((f) => stem(f.name))
    for (const [i, frames] of (kept ?? []).entries()) {
      const first = frames[0]
      if (!first) continue
      const id = await add(
        frames.length > 1 ? 'flipbook' : 'picture',
        names[i] ?? 'Picture',
        frames.map((f) => ({ asset: f.id })),
        [first.width, first.height],
        place,
      )
      if (id) made.push(id)
    }
    if (made.length) selection.pickAll(made)
  }

  /** All files the frames of one flipbook, in the order of their names; or a sheet cut into parts. */
  async function asBook(files: File[], cut: { columns: number; rows: number }, place?: Point3, target?: Id): Promise<void> {
    const kept = (await keep(byName(files)))?.flat()
    const first = kept?.[0]
    if (!kept || !first) return
    const w = Math.floor(first.width / cut.columns)
    const h = Math.floor(first.height / cut.rows)
    if (w < 1 || h < 1)
      return void message.error(
        sentence(`this picture (${first.width} × ${first.height} px) can't be divided into ${cut.columns} × ${cut.rows} frames`),
      )
    const frames = kept.flatMap((k): PictureFrame[] =>
      cut.columns * cut.rows === 1
        ? [{ asset: k.id }]
        : Array.from({ length: cut.columns * cut.rows }, (_, n) => ({
            asset: k.id,
            part: [(n % cut.columns) * w, Math.floor(n / cut.columns) * h, w, h],
          })),
    )
    if (target) return void (await doc.operations({ op: 'item.frames', item: target, frames }))
    const id = await add('flipbook', stem(files[0]?.name ?? 'Flipbook').replace(/[\s_-]*\d+$/, '') || 'Flipbook', frames, [w, h], place)
    if (id) selection.pick(id)
  }

  /** A picture that is there becomes a flipbook of its parts. */
  async function cutUp(id: Id, columns: number, rows: number): Promise<void> {
    const asset = doc.items.get(id)?.frames?.[0]?.asset
    if (!asset) return
    const image = new Image()
    image.src = api.asset(asset)
    try {
      await image.decode()
    } catch {
      return void message.error('The picture could not be read. Check the connection and try again.')
    }
    await doc.gesture('cut frames', { item: id, columns, rows, size: [image.naturalWidth, image.naturalHeight] })
  }

  return { progress, question, choose, bring, asItems, asBook, cutUp, cancel: () => stop?.abort() }
}
