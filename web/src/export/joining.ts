import { ALL_FORMATS, BlobSource, EncodedPacketSink, EncodedVideoPacketSource, Input, type VideoCodec } from 'mediabunny'
import type { Catalogue, Project } from '@/core/types'
import { moments, type Export } from './asked'
import type { Writing } from './files'
import { begun } from './movie'
import { Pictures } from './pictures'
import { mixed } from './sounds'

/** Puts the parts of a moving picture one behind the other, without encoding them anew, and the sound with them. */
export async function join(project: Project, catalogue: Catalogue, one: Export, parts: string[], file: Writing): Promise<void> {
  const video = new EncodedVideoPacketSource(one.format.codec as VideoCodec)
  const pictures = await Pictures.open({ ...one, project, width: 16, height: 16 }, catalogue)
  try {
    const heard = pictures.heard
    const own = pictures.composition.rate
    const { output, hear } = await begun(video, { format: one.format, to: file.stream, rate: one.rate, sound: heard.length > 0 })
    const mix = heard.length ? await mixed(heard, own) : null
    const all = moments(one, own)
    let done = 0
    for (const part of parts) {
      const answer = await fetch(part)
      if (!answer.ok) throw new Error('a part of the export is missing')
      const input = new Input({ source: new BlobSource(await answer.blob()), formats: ALL_FORMATS })
      const track = await input.getPrimaryVideoTrack()
      const config = await track?.getDecoderConfig()
      if (!track || !config) throw new Error('a part of the export holds no pictures')
      const offset = done / one.rate
      for await (const packet of new EncodedPacketSink(track).packets()) {
        const at = all[done] ?? 0
        if (mix) {
          await pictures.evaluate(at)
          await hear(mix(at, all[done + 1] ?? at + own / one.rate))
        }
        await video.add(packet.clone({ timestamp: packet.timestamp + offset }), { decoderConfig: config })
        done++
      }
    }
    if (done !== all.length) throw new Error(`the parts hold ${done} pictures of ${all.length}`)
    await output.finalize()
  } finally {
    pictures.close()
  }
}
