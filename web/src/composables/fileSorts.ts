/** What a file can be brought in as. */
export type FileSort = 'project' | 'drawing' | 'sound' | 'table' | 'model' | 'lottie' | 'picture'

interface Sort {
  types: RegExp
  names: RegExp
  /** What a chooser of files offers. */
  accept: string
}

const sorts: Record<Exclude<FileSort, 'lottie' | 'picture'>, Sort> = {
  project: { types: /^application\/x-wunderkammer$/, names: /\.wunderkammer$/i, accept: '.wunderkammer' },
  drawing: { types: /^image\/svg\+xml$/, names: /\.svg$/i, accept: 'image/svg+xml' },
  sound: { types: /^audio\//, names: /\.(wav|mp3|ogg|oga|flac|m4a)$/i, accept: 'audio/*,.wav,.mp3,.ogg,.flac,.m4a' },
  model: { types: /^model\/gltf/, names: /\.(glb|gltf)$/i, accept: '.glb,.gltf,model/gltf-binary,model/gltf+json,.bin' },
  table: {
    types: /^(text\/csv|text\/tab-separated-values|application\/json)$/,
    names: /\.(csv|tsv|tab|json)$/i,
    accept: '.csv,.tsv,.json,text/csv,application/json',
  },
}
const pictures = 'image/png,image/jpeg,image/webp,image/gif'

/** What a chooser offers for some sorts of files; for all where none is named. */
export const acceptOf = (...wanted: FileSort[]): string =>
  (wanted.length ? wanted : (['drawing', 'picture', 'sound', 'table', 'model'] as const))
    .map((s) => (s === 'picture' ? pictures : s === 'lottie' ? '.json' : sorts[s].accept + (s === 'model' ? `,${pictures}` : '')))
    .join()

/** What a file in JSON says, as far as it matters what it is. */
type Says = Partial<Record<'fr' | 'layers' | 'buffers' | 'images' | 'assets', unknown>>

async function read(file: File): Promise<Says> {
  try {
    return (JSON.parse(await file.text()) as Says | null) ?? {}
  } catch {
    return {} // which is told when it is read
  }
}

/** What a file is, by its type, its name, and where both leave it open by what it says: a Lottie says how fast it plays and its layers. */
function sortOf(file: File, { fr, layers }: Says): FileSort {
  if (typeof fr === 'number' && Array.isArray(layers)) return 'lottie'
  for (const [sort, { types, names }] of Object.entries(sorts) as [keyof typeof sorts, Sort][])
    if (types.test(file.type) || names.test(file.name)) return sort
  return 'picture'
}

/** The name of the file at an address, if it is one beside. */
function named(address: unknown): string[] {
  if (typeof address !== 'string' || !address || address.startsWith('data:')) return []
  const last = address.replace(/^.*\//, '')
  try {
    return [decodeURIComponent(last)]
  } catch {
    return [last] // it has a percent sign of its own
  }
}

/** The names of the files that one in JSON refers to, whatever else it is. */
function beside({ buffers, images, assets }: Says): string[] {
  const of = (list: unknown, key: string): string[] =>
    Array.isArray(list) ? list.flatMap((one: Record<string, unknown> | null) => named(one?.[key])) : []
  return [...of(buffers, 'uri'), ...of(images, 'uri'), ...of(assets, 'p')]
}

/** Files by what they are, each with those that it refers to: these are nothing by themselves. */
export async function sorted(files: File[]): Promise<{ file: File; sort: FileSort; parts: File[] }[]> {
  const all = await Promise.all(
    files.map(async (file) => {
      const says = /\.(gltf|json)$/i.test(file.name) ? await read(file) : {}
      const names = beside(says)
      return { file, sort: sortOf(file, says), parts: files.filter((f) => f !== file && names.includes(f.name)) }
    }),
  )
  const inside = new Set(all.flatMap((a) => a.parts))
  return all.filter((a) => !inside.has(a.file))
}
