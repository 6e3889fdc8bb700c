import { assetAt } from '@/net/assets'

/** Samples a second of what is written. */
export const soundRate = 48000

/** A sound of the composition: what it plays, the frame that it begins at, and how loud it is at the frame that was drawn last, 0 to 1. */
export interface Heard {
  asset: string
  start: number
  volume: () => number
}

/**
 * The sounds of a composition of so many frames a second: what is heard from one moment to another, in frames, left and right. Moments
 * are asked for in their order.
 */
export async function mixed(heard: Heard[], rate: number): Promise<(begin: number, end: number) => [Float32Array, Float32Array]> {
  const decoder = new OfflineAudioContext(2, 1, soundRate)
  const sounds = await Promise.all(
    heard.map(async (one) => {
      const file = await fetch(assetAt(one.asset))
      if (!file.ok) throw new Error('a sound of it could not be loaded. Check the connection and try again')
      const buffer = await decoder.decodeAudioData(await file.arrayBuffer())
      const left = buffer.getChannelData(0)
      return { ...one, sides: [left, buffer.numberOfChannels > 1 ? buffer.getChannelData(1) : left] as const, was: null as number | null }
    }),
  )
  const sampleAt = (frame: number): number => Math.round((frame / rate) * soundRate)
  return (at, until) => {
    const [from, to] = [sampleAt(at), sampleAt(until)]
    const out: [Float32Array, Float32Array] = [new Float32Array(to - from), new Float32Array(to - from)]
    for (const sound of sounds) {
      const now = sound.volume()
      const was = sound.was ?? now // of the first frame it is as loud throughout
      const begin = from - sampleAt(sound.start)
      for (const [side, samples] of out.entries()) {
        const source = sound.sides[side] as Float32Array
        for (let k = Math.max(0, -begin); k < samples.length && begin + k < source.length; k++)
          samples[k] = (samples[k] ?? 0) + (source[begin + k] ?? 0) * (was + ((now - was) * k) / samples.length)
      }
      sound.was = now
    }
    for (const samples of out) for (let k = 0; k < samples.length; k++) samples[k] = Math.max(-1, Math.min(1, samples[k] ?? 0))
    return out
  }
}
