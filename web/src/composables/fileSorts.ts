/** What a file can be brought in as. */
export type FileSort = 'drawing' | 'sound' | 'table' | 'model' | 'picture'

interface Sort {
  types: RegExp
  names: RegExp
  /** What a chooser of files offers. */
  accept: string
}

const sorts: Record<Exclude<FileSort, 'picture'>, Sort> = {
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
    .map((s) => (s === 'picture' ? pictures : sorts[s].accept + (s === 'model' ? `,${pictures}` : '')))
    .join()

/** What a file is, by its type and its name. */
function sortOf(file: File): FileSort {
  for (const [sort, { types, names }] of Object.entries(sorts) as [keyof typeof sorts, Sort][])
    if (types.test(file.type) || names.test(file.name)) return sort
  return 'picture'
}

/** The names of the files that a glTF in JSON refers to. */
async function beside(file: File): Promise<string[]> {
  if (!/\.gltf$/i.test(file.name)) return []
  try {
    const says = JSON.parse(await file.text()) as Record<'buffers' | 'images', { uri?: string }[] | undefined>
    const uris = [...(says.buffers ?? []), ...(says.images ?? [])].flatMap((b) => (b.uri && !b.uri.startsWith('data:') ? [b.uri] : []))
    return uris.map((u) => decodeURIComponent(u).replace(/^.*\//, ''))
  } catch {
    return [] // which is told when it is read
  }
}

/** Files by what they are, each with those that it refers to: these are nothing by themselves. */
export async function sorted(files: File[]): Promise<{ file: File; sort: FileSort; parts: File[] }[]> {
  const all = await Promise.all(
    files.map(async (file) => {
      const names = await beside(file)
      return { file, sort: sortOf(file), parts: files.filter((f) => f !== file && names.includes(f.name)) }
    }),
  )
  const inside = new Set(all.flatMap((a) => a.parts))
  return all.filter((a) => !inside.has(a.file))
}
