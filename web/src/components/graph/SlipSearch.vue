<script setup lang="ts">
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import { hand } from '@/composables/hand'
import { useChoosing } from '@/composables/choosing'
import type { Id, Slip } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useGraphs } from '@/stores/graphs'

/** Finds what to put on the sheet by part of its name: functions, operators, words, controls, properties; arithmetic as it is typed. */
const props = defineProps<{
  at: { x: number; y: number }
  /** What the cable in the hand wants: something that takes a value, or something that gives one. */
  wanted?: 'takes' | 'gives'
  begun?: string // what is typed already
}>()
type Made = Pick<Slip, 'kind' | 'text' | 'fields' | 'stops'>
const emit = defineEmits<{ choose: [slip: Made]; find: [id: Id]; close: [] }>()
const doc = useDocument()
const graphs = useGraphs()
const typed = ref(props.begun ?? '')
const field = useTemplateRef<HTMLInputElement>('field')
const list = useTemplateRef<HTMLUListElement>('list')
const most = 40

interface Found {
  name: string
  help: string
  slip?: Made
  there?: Id // a slip that lies on the sheet
}

const allTools = computed<Found[]>(() => [
  { name: 'drive', help: 'gives a property its value', slip: { kind: 'drive' } },
  { name: 'value', help: 'a number, a colour, a place or a text', slip: { kind: 'value', text: '1' } },
  {
    name: 'map',
    help: 'from a number to what stands at it between stops',
    slip: {
      kind: 'map',
      stops: [
        { in: 0, out: 0, easing: 'linear' },
        { in: 100, out: 100, easing: 'linear' },
      ],
    },
  },
  { name: 'formula', help: 'whose unknown names are its inputs', slip: { kind: 'formula', text: 'a + b' } },
  { name: 'readout', help: 'shows a value', slip: { kind: 'readout' } },
  { name: 'note', help: 'what is said of some slips', slip: { kind: 'note', text: '' } },
  ...doc.catalogue.operators.map((o): Found => ({ name: o.name, help: `${o.text} · ${o.help}`, slip: { kind: 'apply', text: o.text } })),
  ...doc.catalogue.functions.map((f): Found => ({ name: f.name, help: f.help, slip: { kind: 'apply', text: f.name } })),
  ...doc.catalogue.words.map((w): Found => ({ name: w.text, help: w.outs.join(', '), slip: { kind: 'words', text: w.text } })),
])

/** An operator with a number behind it, such as "* 3". */
const arithmetic = computed<Found[]>(() => {
  const m = /^([-+*/^])\s*(\S.*)$/.exec(typed.value.trim())
  const operator = m && doc.catalogue.operators.find((o) => o.text === m[1])
  return m && operator
    ? [
        {
          name: `${operator.name} ${m[2]}`,
          help: operator.help,
          slip: { kind: 'apply', text: operator.text, fields: { 2: m[2] as string } },
        },
      ]
    : []
})

/** A vertex by its number, of what has some: "Crate vertex 3", in its own space or the composition's. */
const vertices = computed<Found[]>(() => {
  const m = /^(.*?)\s*\b(world\s+)?vertex\s+(\d+)$/i.exec(typed.value.trim())
  if (!m) return []
  const owner = (m[1] ?? '').toLowerCase().replace(/:$/, '')
  return doc.order.flatMap((id) => {
    const item = doc.items.get(id)
    const has = item && (item.kind === 'path' || doc.kinds.get(item.kind)?.class === 'solid')
    if (!item || !has || !item.name.toLowerCase().includes(owner)) return []
    return (m[2] ? ['world vertex'] : ['vertex', 'world vertex']).map((what) => ({
      name: `${item.name}: ${what} ${m[3]}`,
      help: what === 'vertex' ? 'in its own space' : 'in the composition',
      slip: { kind: 'read' as const, text: `{@${id}: ${what} ${m[3]}}` },
    }))
  })
})

const found = computed<Found[]>(() => {
  const words = typed.value.toLowerCase().split(/\s+/).filter(Boolean)
  const fits = (text: string): boolean => words.every((w) => text.toLowerCase().includes(w))
  const out = [...arithmetic.value]
  const tools = allTools.value.filter((t) => suits(t.slip?.kind ?? 'note'))
  if (!words.length) return tools.slice(0, most)
  if (suits('read'))
    for (const id of doc.order) {
      const item = doc.items.get(id)
      if (!item || out.length > 400) continue
      for (const spec of doc.specsOf(item)) {
        const name = `${item.name}: ${spec.name}`
        if (fits(name)) out.push({ name, help: spec.group ?? '', slip: { kind: 'read', text: `{@${id}:@${spec.key}}` } })
      }
    }
  if (suits('read')) out.push(...vertices.value)
  out.push(...tools.filter((t) => fits(t.name + ' ' + t.help)))
  if (!props.wanted)
    for (const s of graphs.shown.slips) if (fits(s.called)) out.push({ name: s.called, help: 'on this sheet: show it', there: s.id })
  // What has one of its words whole comes first, then what begins with it; of properties, controls.
  const rank = (f: Found): number => {
    const first = words[0] ?? ''
    const said = f.name.toLowerCase().split(/[^\p{L}\p{N}]+/u)
    return (
      (said.includes(first) ? 0 : said.some((w) => w.startsWith(first)) ? 2 : 4) +
      Number(f.slip?.kind === 'read' && f.help !== 'Controls') +
      (f.there ? 1.5 : 0)
    )
  }
  const given = arithmetic.value.length
  return [...out.slice(0, given), ...out.slice(given).sort((a, b) => rank(a) - rank(b))].slice(0, most)
})

/** Whether a kind of slip can stand at the end of the cable in the hand. */
function suits(kind: Slip['kind']): boolean {
  if (props.wanted === 'takes') return !['read', 'value', 'words', 'note'].includes(kind)
  if (props.wanted === 'gives') return !['drive', 'readout', 'note', 'fold'].includes(kind)
  return true
}
const choose = (f: Found | undefined): void => {
  if (f?.there) emit('find', f.there)
  else if (f?.slip) emit('choose', f.slip)
}
const { at: chosen, keys: walk } = useChoosing(
  typed,
  () => found.value,
  () => list.value,
  choose,
)
watch(
  () => props.at,
  async () => {
    await nextTick()
    field.value?.focus()
  },
  { immediate: true },
)

function keys(event: KeyboardEvent): void {
  event.stopPropagation()
  if (event.key === 'Enter') hand.byKeyboard = true // and goes on by it
  if (event.key === 'Escape') emit('close')
  else void walk(event)
}
</script>

<template>
  <div class="search" role="dialog" aria-label="Put on the sheet" :style="{ left: props.at.x + 'px', top: props.at.y + 'px' }">
    <input
      ref="field"
      v-model="typed"
      type="search"
      placeholder="wave, Wind, * 3 …"
      aria-label="Find what to put on the sheet"
      @keydown="keys"
      @blur="emit('close')"
    />
    <ul ref="list" role="listbox" aria-label="What can be put on the sheet">
      <li v-for="(f, i) in found" :key="f.name + i" role="option" :aria-selected="i === chosen" :class="{ at: i === chosen }">
        <button class="plain" tabindex="-1" @pointerdown.prevent="choose(f)">
          <b>{{ f.name }}</b> <span>{{ f.help }}</span>
        </button>
      </li>
      <li v-if="!found.length" class="fine">Nothing is called that.</li>
    </ul>
  </div>
</template>

<style scoped>
.search {
  position: absolute;
  z-index: 30;
  width: 300px;
  padding: 6px;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: 4px;
  box-shadow: 2px 4px 12px rgb(0 0 0 / 20%);
}
input {
  width: 100%;
  padding: 4px 6px;
  border: 1px solid var(--track);
  border-radius: 3px;
  background: var(--sunk);
  color: var(--ink);
  font-size: 13px;
}
ul {
  margin: 6px 0 0;
  padding: 0;
  max-height: 190px;
  overflow: auto;
  list-style: none;
}
.at,
li:hover {
  background: var(--picked);
}
li button {
  width: 100%;
  padding: 3px 6px;
  text-align: left;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
li b {
  font-weight: 500;
}
li span,
.fine {
  color: var(--ink2);
  font-size: 12px;
}
</style>
