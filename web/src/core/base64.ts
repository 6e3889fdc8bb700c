/** Bytes as base64. */
export function toBase64(bytes: Uint8Array): string {
  let out = ''
  for (let k = 0; k < bytes.length; k += 0x6000) out += btoa(String.fromCharCode(...bytes.subarray(k, k + 0x6000)))
  return out
}

export const fromBase64 = (text: string): Uint8Array<ArrayBuffer> => Uint8Array.from(atob(text), (c) => c.charCodeAt(0))
