import {
  canEncodeVideo,
  CanvasSource,
  Mp4OutputFormat,
  Output,
  QUALITY_VERY_HIGH,
  StreamTarget,
  WebMOutputFormat,
  type VideoCodec,
} from 'mediabunny'
import type { Into, Writer } from './writers'

/** A moving picture, encoded by the browser. */
export async function movie({ canvas, to, format, rate }: Into): Promise<Writer> {
  const codec = format.codec as VideoCodec
  const { width, height } = canvas
  if (typeof VideoEncoder === 'undefined')
    throw new Error('this browser encodes no moving pictures here (it wants a secure page: https, or localhost); export numbered PNG')
  if (!(await canEncodeVideo(codec, { width, height, bitrate: QUALITY_VERY_HIGH })))
    throw new Error(`this browser can't encode ${format.name} of ${width} × ${height} px; choose another format or size`)
  const output = new Output({
    format: format.extension === 'mp4' ? new Mp4OutputFormat({ fastStart: false }) : new WebMOutputFormat(),
    target: new StreamTarget(to, { chunked: true }),
  })
  const source = new CanvasSource(canvas, { codec, bitrate: QUALITY_VERY_HIGH })
  output.addVideoTrack(source, { frameRate: rate })
  await output.start()
  return {
    add: (nth) => source.add(nth / rate, 1 / rate),
    end: () => output.finalize(),
    drop: () => output.cancel(),
  }
}
