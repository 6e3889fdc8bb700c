/**
 * The messages of boxes with faders, as the MIDI 1.0 standard has them: control changes, of which 0 to 31 may have a finer half at 32
 * to 63, pitch bend, and notes. All else is passed over.
 */

/** What a message says: something was moved to a share of its way, 0 to 1; or a key went down. */
export type Message = { from: string; share: number } | { from: string; pressed: true }

/** Reads the messages of one box. */
export function reader(): (bytes: ArrayLike<number>) => Message | null {
  const coarse = new Map<string, number>() // the first half of what has a finer one
  const fine = new Set<string>()
  return (bytes) => {
    const [status = 0, first = 0, second = 0] = [bytes[0], bytes[1], bytes[2]]
    const channel = (status & 15) + 1
    const kind = status & 0xf0
    if (bytes.length < 3 || first > 127 || second > 127) return null
    if (kind === 0xb0 && first < 32) {
      const from = `${channel} control ${first}`
      coarse.set(from, second)
      return fine.has(from) ? null : { from, share: second / 127 }
    }
    if (kind === 0xb0 && first < 64) {
      const from = `${channel} control ${first - 32}`
      const half = coarse.get(from)
      if (half === undefined) return null
      fine.add(from)
      return { from, share: (half * 128 + second) / 16383 }
    }
    if (kind === 0xb0 && first < 120) return { from: `${channel} control ${first}`, share: second / 127 }
    if (kind === 0xe0) return { from: `${channel} bend`, share: (second * 128 + first) / 16383 }
    if (kind === 0x90 && second) return { from: `${channel} note ${first}`, pressed: true }
    return null
  }
}

/** The messages that take a fader of a box to a share of its way: those that it would send itself. */
export function bytesOf(from: string, share: number): number[][] {
  const [channel = '1', kind, number = '0'] = from.split(' ')
  const at = Number(channel) - 1
  const whole = Math.round(Math.max(0, Math.min(1, share)) * 16383)
  const [high, low] = [whole >> 7, whole & 127]
  if (kind === 'bend') return [[0xe0 | at, low, high]]
  const n = Number(number)
  return n < 32
    ? [
        [0xb0 | at, n, high],
        [0xb0 | at, n + 32, low],
      ]
    : [[0xb0 | at, n, Math.round(Math.max(0, Math.min(1, share)) * 127)]]
}
