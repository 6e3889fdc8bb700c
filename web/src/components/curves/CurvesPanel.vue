<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, shallowRef, useTemplateRef, watch } from 'vue'
import { download } from '@/composables/download'
import { short } from '@/composables/format'
import { core } from '@/core/client'
import type { Ref } from '@/core/types'
import { useDocument } from '@/stores/document'
import { placed } from '@/stores/document/structure'
import { usePlayback } from '@/stores/playback'
import { useSelection } from '@/stores/selection'

/**
 * Values over the composition: what is selected, with what drives it and the rest of its row. They come from the core; the curves of one
 * property have one range.
 */
const doc = useDocument()
const playback = usePlayback()
const selection = useSelection()
const host = useTemplateRef<HTMLDivElement>('host')
const { width, height } = useElementSize(host)
const pad = 10

interface Curve {
  ref: Ref
  name: string
  part: string
  values: number[]
  source: boolean
}

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
      return parts.map((part, k) => ({ ref, name: doc.nameOf(ref), part, source, values: values.filter((_, n) => n % parts.length === k) }))
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
const drawn = computed(() => curves.value.map((c, i) => ({ c, d: path(c), hue: (i % 6) + 1 })))
const before = computed(() => frozen.value.map(path))
const x = computed(() => (playback.frame / Math.max(1, playback.frames - 1)) * width.value)
/** The value at the playhead: the one on the page, or of what is not there the nearest that is drawn. */
function now(c: Curve): string {
  const spec = doc.spec(c.ref.item, c.ref.property)
  if (spec && placed(spec)) return short(doc.numbers(c.ref.item, spec)[Math.max(0, spec.parts?.indexOf(c.part) ?? 0)] ?? 0)
  return short(c.values[Math.round((playback.frame / Math.max(1, playback.frames - 1)) * (c.values.length - 1))] ?? 0)
}

function scrub(event: PointerEvent): void {
  if (event.buttons !== 1) return
  const box = host.value?.getBoundingClientRect()
  if (box) playback.seek(((event.clientX - box.left) / box.width) * (playback.frames - 1))
}
</script>

<template>
  <section class="panel" aria-label="Curves" data-panel="curves">
    <header>
      <span class="quiet">{{ curves.length ? 'Each curve is scaled to its own range' : '' }}</span>
      <button v-if="curves.length" class="plain act" @click="frozen = frozen.length ? [] : curves">
        {{ frozen.length ? 'Clear comparison' : 'Keep for comparison' }}
      </button>
      <button
        v-if="curves.length"
        class="plain act"
        title="Every frame of the selected properties, as comma-separated values"
        @click="save"
      >
        Export CSV
      </button>
    </header>
    <div class="body">
      <ul class="names" aria-label="Values at the playhead">
        <li v-for="{ c, hue } in drawn" :key="c.name + c.part" :class="{ source: c.source }">
          <i :style="{ background: `var(--label${hue})` }" /><span class="name" :title="c.name"
            >{{ c.name }}{{ c.part && '.' + c.part }}</span
          ><span class="figures">{{ now(c) }}</span>
        </li>
      </ul>
      <div ref="host" class="plot" @pointerdown="scrub" @pointermove="scrub">
        <svg v-if="curves.length" role="img" :aria-label="`${curves.length} curves over ${playback.frames} frames`">
          <path v-for="(d, i) in before" :key="'b' + i" class="before" :d="d" />
          <path
            v-for="{ c, d, hue } in drawn"
            :key="c.name + c.part"
            class="curve"
            :class="{ dashed: c.source }"
            :d="d"
            :style="{ stroke: `var(--label${hue})` }"
          />
          <path class="head" :d="`M${x} 0V${height}`" />
        </svg>
        <p v-else class="empty">Select a property or control to see its curve and what drives it.</p>
      </div>
    </div>
  </section>
</template>

<style scoped>
.panel {
  display: flex;
  flex-direction: column;
  min-height: 0;
  min-width: 0;
}
header {
  display: flex;
  align-items: center;
  gap: 12px;
  height: 30px;
  border-bottom: 1px solid var(--line);
  background: var(--sunk);
  flex: none;
  font-size: 12px;
}
.act {
  color: var(--brassText);
  padding: 0 5px;
  border-radius: 3px;
}
.act:hover {
  background: var(--picked);
}
.body {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: 280px minmax(0, 1fr);
}
.names {
  list-style: none;
  margin: 0;
  padding: 6px 12px;
  overflow: auto;
  border-right: 1px solid var(--line);
  font-size: 12px;
}
li {
  display: flex;
  align-items: center;
  gap: 8px;
  height: 22px;
}
li i {
  width: 12px;
  height: 3px;
  border-radius: 2px;
  flex: none;
}
.name {
  flex: 1;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.source .name {
  color: var(--ink2);
}
.plot {
  position: relative;
  min-width: 0;
  overflow: hidden;
  cursor: ew-resize;
}
svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}
.curve {
  fill: none;
  stroke-width: 1.8;
}
.dashed {
  stroke-dasharray: 6 4;
}
.before {
  fill: none;
  stroke: var(--track);
  stroke-width: 1.5;
}
.head {
  stroke: var(--oxblood);
  stroke-width: 1;
}
.empty {
  color: var(--ink2);
  padding: 12px;
  margin: 0;
}
</style>
