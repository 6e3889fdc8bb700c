/** A sound file: a tone of 220 Hz that is as loud as asked for, moment by moment. */
export function tone(seconds: number, loud: (at: number) => number, rate = 8000, deep = 2): Buffer {
  const n = Math.round(seconds * rate)
  const out = Buffer.alloc(44 + deep * n)
  out.write('RIFF', 0)
  out.writeUInt32LE(36 + deep * n, 4)
  out.write('WAVEfmt ', 8)
  out.writeUInt32LE(16, 16)
  for (const [k, x] of [1, 1].entries()) out.writeUInt16LE(x, 20 + 2 * k)
  out.writeUInt32LE(rate, 24)
  out.writeUInt32LE(deep * rate, 28)
  out.writeUInt16LE(deep, 32)
  out.writeUInt16LE(8 * deep, 34)
  out.write('data', 36)
  out.writeUInt32LE(deep * n, 40)
  if (deep === 2)
    for (let k = 0; k < n; k++) out.writeInt16LE(Math.round(30000 * loud(k / rate) * Math.sin((2 * Math.PI * 220 * k) / rate)), 44 + 2 * k)
  return out
}
