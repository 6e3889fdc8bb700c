import { computed, reactive } from 'vue'
import type { Export } from '@/export/asked'
import { useDocument } from '@/stores/document'
import { usePlayback } from '@/stores/playback'
import { useSelection } from '@/stores/selection'

const form = reactive({
  format: 'mp4',
  width: 0,
  height: 0,
  /** Of all frames, of the range, or of some. */
  range: 'all',
  from: 0,
  to: 0,
  /** The frame of a picture that does not move. */
  frame: 0,
  rate: 25,
  loop: 0,
  clear: false,
  /** How far shapes may be off, in pixels. */
  tolerance: 0.1,
  /** Whether a table is of what is selected, or of everything. */
  of: 'all',
  blurs: false,
  samples: 8,
  angle: 180,
  /** Who makes it: this browser, or the server. */
  by: 'here',
})

/** What is to be exported, and how; one for all who show it. */
export function useExportForm() {
  const doc = useDocument()
  const playback = usePlayback()
  const selection = useSelection()
  const format = computed(() => doc.catalogue.formats.find((f) => f.key === form.format))
  const ranges = computed(() => [
    { label: `All ${playback.frames} frames`, value: 'all' },
    ...(playback.range ? [{ label: `The range, ${playback.range[0]} to ${playback.range[1]}`, value: 'range' }] : []),
    { label: 'From … to …', value: 'some' },
  ])

  /** One side of the picture says what the other is. */
  function sized(side: 'width' | 'height', px: number): void {
    const c = doc.composition
    if (!c || !px) return
    const [width, height] = side === 'width' ? [px, (px * c.height) / c.width] : [(px * c.width) / c.height, px]
    const whole = (x: number): number => Math.max(2, format.value?.even ? 2 * Math.round(x / 2) : Math.round(x))
    Object.assign(form, { width: whole(width), height: whole(height) })
  }

  /** The first and the last frame. */
  const stretch = computed<[number, number]>(() =>
    format.value?.one
      ? [form.frame, form.frame]
      : form.range === 'all'
        ? [0, playback.frames - 1]
        : form.range === 'range' && playback.range
          ? playback.range
          : [form.from, form.to],
  )
  const count = computed(() => stretch.value[1] - stretch.value[0] + 1)
  const wrong = computed(() => (count.value < 1 ? 'The last frame comes before the first.' : ''))

  /** What is to be exported, as it was filled in. */
  const asked = computed<Export | null>(() => {
    const [c, f, [from, to]] = [doc.composition, format.value, stretch.value]
    if (!c || !f || wrong.value) return null
    const { width, height, clear, loop, blurs, samples, angle, tolerance } = form
    const rate = f.one || !f.drawn ? c.rate : form.rate || c.rate
    const blur = blurs && f.drawn ? { samples, angle } : undefined
    const only = f.table && form.of === 'selected' ? [...selection.ids] : undefined
    const rest = { clear: clear && !!f.clear, blur, tolerance: tolerance || undefined, only }
    return { format: f, composition: c.id, name: c.name, width, height, from, to, rate, loop: f.loops ? loop : 0, ...rest }
  })

  return { form, format, ranges, sized, stretch, count, wrong, asked }
}
