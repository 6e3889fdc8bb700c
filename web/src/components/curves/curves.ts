import { computed, reactive, ref, shallowRef, watch, type Ref as Reactive } from 'vue'
import { download } from '@/composables/download'
import { short } from '@/composables/format'
import { core } from '@/core/client'
import type { Pin, Ref } from '@/core/types'
import { useDocument } from '@/stores/document'
import { placed } from '@/stores/document/structure'
import { usePlayback } from '@/stores/playback'
import { useSelection } from '@/stores/selection'
import { useTimeline } from '@/stores/timeline'

/** The room above and below curves, in pixels. */
export const pad = 16

export interface Curve {
  ref: Ref
  name: string
  part: string
  /** Which of the components of the property it is. */
  at: number
  unit: string
  values: number[]
  /** The frames of the first and of the last value. */
  from: number
  to: number
  source: boolean
}

/** An own pin on its curve. */
export interface CurvePin {
  curve: Curve
  pin: Pin
  next?: Pin
  value: number
  picked: boolean
}

/** The component of a pin that a curve shows. */
export const valueOf = (pin: Pin, c: Curve): number => Number(Array.isArray(pin.value) ? pin.value[c.at] : pin.value)

/** Curves differ in their strokes, too, and not in their hue alone. */
const strokes = ['', '7 3', '2 3', '9 3 2 3', '4 2 1 2 1 2', '12 4']

/** The curves of what is selected, and of what drives it, as they are drawn in a panel of a height. */
export function useCurves(height: Reactive<number>) {
  const doc = useDocument()
  const playback = usePlayback()
  const selection = useSelection()
  const timeline = useTimeline()

  const curves = shallowRef<Curve[]>([])
  const frozen = shallowRef<Curve[]>([])
  /** How they are drawn: each by its own range, or all that have one unit by the same; and as values, or how fast these change. */
  const fitted = ref(true)
  const speed = ref(false)
  /** While something is dragged, what is drawn keeps its scale. */
  const still = ref(false)
  const steps = computed(() => Math.max(2, Math.min(1200, Math.round(timeline.width / 2))))
  const stretch = computed(() => [timeline.from, Math.min(playback.frames - 1, timeline.from + timeline.frames)] as const)

  async function read(): Promise<void> {
    const [from, to] = stretch.value
    const { result } = await core.ask('curves', { refs: selection.targets, speed: speed.value, from, to, steps: steps.value })
    curves.value = (result ?? []).flatMap(({ ref, source = false, values }) => {
      const spec = doc.spec(ref.item, ref.property)
      if (!spec || !values || spec.type === 'text') return []
      const parts = spec.parts ?? ['']
      const unit = (spec.unit ?? '') + (speed.value ? '/s' : '')
      return parts.map((part, at) => ({
        ...{ ref, part, at, unit, from, to, source, name: doc.nameOf(ref) },
        values: values.filter((_, n) => n % parts.length === at),
      }))
    })
  }
  watch([() => selection.targets, () => doc.rested, steps, stretch, speed], read, { immediate: true })
  watch(speed, () => (frozen.value = [])) // they are of another sort

  /** The range of all curves of one property, so that the members of a row can be compared; or of all of one unit. */
  const group = (c: Curve): string => (fitted.value ? c.ref.property + c.part : c.unit)
  /** What handles reach, by the span that they are of: that is in sight, too. */
  const reached = reactive(new Map<string, { curve: Curve; values: number[] }>())
  function reach(c: Curve, frame: number, values: number[]): void {
    const span = `${c.ref.item}/${c.ref.property}${c.part}@${frame}`
    if (values.length) reached.set(span, { curve: c, values })
    else reached.delete(span)
  }
  const ranges = computed<Map<string, [number, number]>>((was) => {
    if (still.value && was) return was
    const out = new Map<string, [number, number]>()
    const drawn = [...curves.value, ...frozen.value].map((c) => ({ curve: c, values: c.values }))
    for (const { curve, values } of [...drawn, ...(speed.value ? [] : reached.values())]) {
      let [lo, hi] = out.get(group(curve)) ?? [Infinity, -Infinity]
      for (const v of values) [lo, hi] = [Math.min(lo, v), Math.max(hi, v)]
      out.set(group(curve), [lo, hi])
    }
    return out
  })
  const range = (c: Curve): [number, number] => {
    const [lo, hi] = ranges.value.get(group(c)) ?? [0, 1]
    return hi - lo > 1e-9 ? [lo, hi] : [lo - 1, hi + 1]
  }
  /** How many units of its value a pixel is, and where a value stands. */
  const perPixel = (c: Curve): number => (range(c)[1] - range(c)[0]) / Math.max(1, height.value - 2 * pad)
  const y = (c: Curve, value: number): number => height.value - pad - (value - range(c)[0]) / perPixel(c)
  const frameOf = (c: Curve, k: number): number => c.from + (k / Math.max(1, c.values.length - 1)) * (c.to - c.from)
  /** What a curve is at a frame, or at the nearest that is drawn. */
  const at = (c: Curve, frame: number): number => {
    const k = Math.round(((frame - c.from) / Math.max(1e-9, c.to - c.from)) * (c.values.length - 1))
    return c.values[Math.max(0, Math.min(c.values.length - 1, k))] ?? 0
  }

  /** Every whole frame of what is drawn, as a table of comma-separated values. */
  async function save(): Promise<void> {
    const own = [...new Map(curves.value.filter((c) => !c.source).map((c) => [`${c.ref.item}/${c.ref.property}`, c.ref])).values()]
    const { result } = await core.ask('table', { refs: own, from: 0, to: playback.frames - 1 })
    if (result) download(`${doc.composition?.name ?? 'values'}.csv`, result, 'text/csv')
  }

  const path = (c: Curve): string => 'M' + c.values.map((v, k) => `${timeline.x(frameOf(c, k)).toFixed(1)} ${y(c, v).toFixed(1)}`).join('L')
  const drawn = computed(() => curves.value.map((c, i) => ({ c, d: path(c), hue: (i % 6) + 1, stroke: strokes[i % strokes.length] })))
  const before = computed(() => frozen.value.map(path))
  /** The curve whose range is written at the side: the one that is pointed at in the list, else the first. */
  const pointed = ref<Curve | null>(null)
  const measured = computed(() => (pointed.value && curves.value.includes(pointed.value) ? pointed.value : curves.value[0]))

  /** Own pins of what is drawn, on their curves. */
  const pins = computed<CurvePin[]>(() =>
    curves.value
      .filter((c) => !c.source)
      .flatMap((curve) =>
        (doc.state(curve.ref.item, curve.ref.property).pins ?? []).map((pin, k, all) => ({
          curve,
          pin,
          next: all[k + 1],
          value: speed.value ? at(curve, pin.frame) : valueOf(pin, curve),
          picked: selection.hasPin({ item: curve.ref.item, property: curve.ref.property, frame: pin.frame }),
        })),
      ),
  )
  /** The frame under the pointer, which the list reads at. */
  const hover = ref<number | null>(null)
  /** The value at the playhead: the one on the page, or of what is not there the nearest that is drawn. */
  function now(c: Curve): string {
    if (hover.value !== null) return short(at(c, hover.value))
    const spec = doc.spec(c.ref.item, c.ref.property)
    if (spec && placed(spec) && !speed.value) return short(doc.numbers(c.ref.item, spec)[c.at] ?? 0)
    return short(at(c, playback.frame))
  }

  return { curves, frozen, fitted, speed, still, reach, drawn, before, pins, pointed, measured, range, perPixel, y, at, hover, now, save }
}
