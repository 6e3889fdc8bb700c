import { core } from '@/core/client'
import type { Sound } from '@/core/types'

/** How many samples a second are listened to: enough for all that the core tells apart. */
const rate = 16000

/** How long a file says that it lasts, in seconds; NaN where it does not say. */
async function lasts(file: Blob): Promise<number> {
  const url = URL.createObjectURL(file)
  try {
    const player = new Audio()
    player.preload = 'metadata'
    const told = new Promise<number>((resolve) => {
      player.onloadedmetadata = () => resolve(player.duration)
      player.onerror = () => resolve(NaN)
    })
    player.src = url
    return await told
  } finally {
    URL.revokeObjectURL(url)
  }
}

/** A sound without an asset, as the core hears it. What can't be heard is thrown as a sentence; what is too long before it is decoded. */
export async function hear(file: File, most: number): Promise<Sound> {
  const seconds = await lasts(file)
  if (seconds > most && seconds < Infinity)
    throw new Error(`it is ${Math.round(seconds / 60)} minutes long; the limit is ${most / 60}. Cut out the part that you need.`)
  let decoded: AudioBuffer
  try {
    decoded = await new OfflineAudioContext(1, 1, rate).decodeAudioData(await file.arrayBuffer())
  } catch {
    throw new Error('it is not a sound that this browser can play, or it is damaged.')
  }
  const channels = Array.from({ length: decoded.numberOfChannels }, (_, k) => decoded.getChannelData(k).slice())
  const { result, error } = await core.hear(channels, rate)
  if (!result) throw new Error(error ?? 'it could not be heard. Try again.')
  return result
}
