import { computed, reactive } from 'vue'
import { useDocument } from '@/stores/document'
import { usePlayback } from '@/stores/playback'

const form = reactive({
  format: 'mp4',
  width: 0,
  height: 0,
  /** Of all frames, of the range, or of some. */
  range: 'all',
  from: 0,
  to: 0,
  clear: false,
  blurs: false,
  samples: 8,
  angle: 180,
})

/** What is to be exported, and how; one for all who show it. */
export function useExportForm() {
  const doc = useDocument()
  const playback = usePlayback()
  const format = computed(() => doc.catalogue.formats.find((f) => f.key === form.format))
  const ranges = computed(() => [
    { label: `All ${playback.frames} frames`, value: 'all' },
    ...(playback.range ? [{ label: `The range, ${playback.range[0]} to ${playback.range[1]}`, value: 'range' }] : []),
    { label: 'From … to …', value: 'some' },
  ])

  /** One side of the picture says what the other is. */
  function sized(side: 'width' | 'height', px: number | null): void {
    const c = doc.composition
    if (!c || !px) return
    const [width, height] = side === 'width' ? [px, (px * c.height) / c.width] : [(px * c.width) / c.height, px]
    const whole = (x: number): number => Math.max(2, format.value?.even ? 2 * Math.round(x / 2) : Math.round(x))
    Object.assign(form, { width: whole(width), height: whole(height) })
  }

  /** The first and the last frame. */
  const stretch = computed<[number, number]>(() =>
    form.range === 'all' ? [0, playback.frames - 1] : form.range === 'range' && playback.range ? playback.range : [form.from, form.to],
  )
  const count = computed(() => stretch.value[1] - stretch.value[0] + 1)
  const wrong = computed(() => (count.value < 1 ? 'The last frame comes before the first.' : ''))

  return { form, format, ranges, sized, stretch, count, wrong }
}
