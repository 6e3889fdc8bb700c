import { assetAt } from '@/net/assets'

/** A file with pictures in the places that lead to them, so that it needs nothing beside it. */
export async function embedded(file: Uint8Array): Promise<Uint8Array> {
  const leads = /"asset:([\da-f]{64})"/g
  const text = new TextDecoder().decode(file)
  const all = new Map<string, string>()
  for (const [, id = ''] of text.matchAll(leads)) {
    if (all.has(id)) continue
    const answer = await fetch(assetAt(id))
    if (!answer.ok) throw new Error('a picture of it could not be loaded. Check the connection and try again')
    const reader = new FileReader()
    const read = new Promise((done) => (reader.onload = done))
    reader.readAsDataURL(await answer.blob())
    await read
    all.set(id, reader.result as string)
  }
  return new TextEncoder().encode(text.replaceAll(leads, (_, id: string) => `"${all.get(id) ?? ''}"`))
}
