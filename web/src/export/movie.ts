import {
  AudioSample,
  AudioSampleSource,
  canEncodeAudio,
  canEncodeVideo,
  CanvasSource,
  Mp4OutputFormat,
  Output,
  QUALITY_HIGH,
  QUALITY_VERY_HIGH,
  StreamTarget,
  WebMOutputFormat,
  type AudioCodec,
  type VideoCodec,
  type VideoSource,
} from 'mediabunny'
import { soundRate } from './sounds'
import type { Into, Writer } from './writers'

/** The track of a sound, in the first codec that this browser encodes. */
async function soundTrack(codecs: AudioCodec[]): Promise<AudioSampleSource> {
  for (const codec of codecs)
    if (await canEncodeAudio(codec, { numberOfChannels: 2, sampleRate: soundRate, quality: QUALITY_HIGH }))
      return new AudioSampleSource({ codec, quality: QUALITY_HIGH })
  throw new Error('this browser can’t encode its sound; hide the sounds, or export numbered PNG')
}

/** Begins a moving picture of encoded or drawn pictures; what is returned with it takes what is heard, piece by piece. */
export async function begun(
  pictures: VideoSource,
  { format, to, rate, sound }: Pick<Into, 'format' | 'to' | 'rate' | 'sound'>,
): Promise<{ output: Output; hear: (heard: [left: Float32Array, right: Float32Array]) => Promise<void> }> {
  const mp4 = format.extension === 'mp4'
  const output = new Output({
    format: mp4 ? new Mp4OutputFormat({ fastStart: false }) : new WebMOutputFormat(),
    target: new StreamTarget(to, { chunked: true }),
  })
  output.addVideoTrack(pictures, { frameRate: rate })
  const sounds = sound ? await soundTrack(mp4 ? ['aac', 'opus'] : ['opus']) : null
  if (sounds) output.addAudioTrack(sounds)
  await output.start()
  let written = 0 // samples
  return {
    output,
    async hear([left, right]) {
      const data = new Float32Array(2 * left.length)
      data.set(left)
      data.set(right, left.length)
      const timestamp = written / soundRate
      written += left.length
      const sample = new AudioSample({ data, format: 'f32-planar', numberOfChannels: 2, sampleRate: soundRate, timestamp })
      await sounds?.add(sample)
      sample.close()
    },
  }
}

/** A moving picture with its sound, encoded by the browser. */
export async function movie({ canvas, to, format, rate, sound }: Into): Promise<Writer> {
  const codec = format.codec as VideoCodec
  const { width, height } = canvas
  if (typeof VideoEncoder === 'undefined')
    throw new Error('this browser encodes no moving pictures here (it wants a secure page: https, or localhost); export numbered PNG')
  if (!(await canEncodeVideo(codec, { width, height, quality: QUALITY_VERY_HIGH })))
    throw new Error(`this browser can’t encode ${format.name} of ${width} × ${height} px; choose another format or size`)
  const pictures = new CanvasSource(canvas, { codec, quality: QUALITY_VERY_HIGH })
  const { output, hear } = await begun(pictures, { format, to, rate, sound })
  return {
    async add(nth, _frame, heard) {
      const shown = pictures.add(nth / rate, 1 / rate) // takes what is on the canvas at once
      if (sound && heard) await hear(heard)
      await shown
    },
    end: () => output.finalize(),
    drop: () => output.cancel(),
  }
}
