import { computed, ref, shallowRef, watch, type Ref as Reactive } from 'vue'
import { download } from '@/composables/download'
import { short } from '@/composables/format'
import { core } from '@/core/client'
import type { Ref } from '@/core/types'
import { useDocument } from '@/stores/document'
import { placed } from '@/stores/document/structure'
import { usePlayback } from '@/stores/playback'
import { useSelection } from '@/stores/selection'

/** The room above and below curves, in pixels. */
export const pad = 10

export interface Curve {
  ref: Ref
  name: string
  part: string
  values: number[]
  source: boolean
}

/** The curves of what is selected, and of what drives it, as they are drawn in a panel of a size. */
export function useCurves(width: Reactive<number>, height: Reactive<number>) {
  const doc = useDocument()
  const playback = usePlayback()
  const selection = useSelection()

  const curves = shallowRef<Curve[]>([])
  const frozen = shallowRef<Curve[]>([])
  const steps = computed(() => Math.max(2, Math.min(1200, Math.round(width.value / 2))))
  watch(
    [() => selection.targets, () => doc.rested, steps],
    async () => {
      const answer = await core.ask('curves', { refs: selection.targets, from: 0, to: playback.frames - 1, steps: steps.value })
      curves.value = (answer.result ?? []).flatMap(({ ref, source = false, values }) => {
        const spec = doc.spec(ref.item, ref.property)
        if (!spec || !values || spec.type === 'text') return []
        const parts = spec.parts ?? ['']
        return parts.map((part, k) => ({
          ref,
          name: doc.nameOf(ref),
          part,
          source,
          values: values.filter((_, n) => n % parts.length === k),
        }))
      })
    },
    { immediate: true },
  )

  /** The range of all curves of one property, so that the members of a row can be compared. */
  const ranges = computed(() => {
    const out = new Map<string, [number, number]>()
    for (const c of [...curves.value, ...frozen.value]) {
      const [lo, hi] = out.get(c.ref.property + c.part) ?? [Infinity, -Infinity]
      out.set(c.ref.property + c.part, [Math.min(lo, ...c.values), Math.max(hi, ...c.values)])
    }
    return out
  })
  const range = (c: Curve): [number, number] => {
    const [lo, hi] = ranges.value.get(c.ref.property + c.part) ?? [0, 1]
    return hi - lo > 1e-9 ? [lo, hi] : [lo - 1, hi + 1]
  }

  /** Every whole frame of what is drawn, as a table of comma-separated values. */
  async function save(): Promise<void> {
    const own = [...new Map(curves.value.filter((c) => !c.source).map((c) => [`${c.ref.item}/${c.ref.property}`, c.ref])).values()]
    const { result } = await core.ask('table', { refs: own, from: 0, to: playback.frames - 1 })
    if (result) download(`${doc.composition?.name ?? 'values'}.csv`, result, 'text/csv')
  }

  function path(c: Curve): string {
    const [lo, hi] = range(c)
    return (
      'M' +
      c.values
        .map(
          (v, i) =>
            `${((i / (c.values.length - 1)) * width.value).toFixed(1)} ${(height.value - pad - ((v - lo) / (hi - lo)) * (height.value - 2 * pad)).toFixed(1)}`,
        )
        .join('L')
    )
  }
  /** Curves differ in their strokes, too, and not in their hue alone. */
  const strokes = ['', '7 3', '2 3', '9 3 2 3', '4 2 1 2 1 2', '12 4']
  const drawn = computed(() => curves.value.map((c, i) => ({ c, d: path(c), hue: (i % 6) + 1, stroke: strokes[i % strokes.length] })))
  /** The curve whose range is written at the side: the one that is pointed at in the list, else the first. */
  const pointed = ref<Curve | null>(null)
  const measured = computed(() => (pointed.value && curves.value.includes(pointed.value) ? pointed.value : curves.value[0]))
  const unit = computed(() => (measured.value ? (doc.spec(measured.value.ref.item, measured.value.ref.property)?.unit ?? '') : ''))
  /** Own pins of what is drawn, on their curves. */
  const pins = computed(() =>
    curves.value
      .filter((c) => !c.source)
      .flatMap((c) =>
        (doc.state(c.ref.item, c.ref.property).pins ?? []).map((p) => {
          const at = c.values[Math.round((p.frame / Math.max(1, playback.frames - 1)) * (c.values.length - 1))] ?? 0
          const [lo, hi] = range(c)
          return {
            frame: p.frame,
            x: (p.frame / Math.max(1, playback.frames - 1)) * width.value,
            y: height.value - pad - ((at - lo) / (hi - lo)) * (height.value - 2 * pad),
          }
        }),
      ),
  )
  /** The frame under the pointer, which the list reads at. */
  const hover = ref<number | null>(null)
  const before = computed(() => frozen.value.map(path))
  const x = computed(() => (playback.frame / Math.max(1, playback.frames - 1)) * width.value)
  /** The value at the playhead: the one on the page, or of what is not there the nearest that is drawn. */
  function now(c: Curve): string {
    if (hover.value !== null)
      return short(c.values[Math.round((hover.value / Math.max(1, playback.frames - 1)) * (c.values.length - 1))] ?? 0)
    const spec = doc.spec(c.ref.item, c.ref.property)
    if (spec && placed(spec)) return short(doc.numbers(c.ref.item, spec)[Math.max(0, spec.parts?.indexOf(c.part) ?? 0)] ?? 0)
    return short(c.values[Math.round((playback.frame / Math.max(1, playback.frames - 1)) * (c.values.length - 1))] ?? 0)
  }

  return { curves, frozen, drawn, before, pins, pointed, measured, unit, range, hover, x, now, save }
}
