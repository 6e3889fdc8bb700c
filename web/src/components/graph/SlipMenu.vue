<script setup lang="ts">
import { type DropdownOption } from 'naive-ui'
import { computed } from 'vue'
import type { Id } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useGraphs } from '@/stores/graphs'
import { useCopies } from './sheet/copies'
import MenuList from '@/components/shared/MenuList.vue'

/** What can be done with a slip, or with all that are picked with it. */
const props = defineProps<{ id: Id }>()
const graphs = useGraphs()
const doc = useDocument()
const copies = useCopies()

const slip = computed(() => graphs.slips.get(props.id))
const about = computed(() => (graphs.picked.includes(props.id) ? graphs.picked : [props.id]))

/** The values of the slip that can be controls: its own, or those in its fields. */
const values = computed(() => {
  const s = slip.value
  if (s?.kind === 'value') return [{ in: '', label: 'it' }]
  return Object.entries(s?.fields ?? {})
    .filter(([, text]) => text && !text.includes('{'))
    .map(([key, text]) => ({
      in: key,
      label: `${graphs.given.get(props.id)?.ins.find((p) => p.key === key)?.name || 'input ' + key} (${text})`,
    }))
})
/** The inputs that something is led to. */
const wired = computed(() =>
  (graphs.given.get(props.id)?.ins ?? [])
    .filter((p) => graphs.leading.has(`${props.id}/${p.key}`))
    .map((p) => ({ in: p.key, name: p.name || 'its input' })),
)
const nulls = (value: string): DropdownOption[] => [
  ...[...doc.items.values()].filter((i) => i.kind === 'null').map((i) => ({ key: `control ${value} ${i.id}`, label: `of ${i.name}` })),
  { key: `control ${value} `, label: 'of a new null' },
]
const options = computed<DropdownOption[]>(() => [
  ...values.value.map((v) => ({ key: `value ${v.in}`, label: `Make ${v.label} a control`, children: nulls(v.in) })),
  ...(slip.value?.kind === 'fold'
    ? [
        { key: 'open', label: slip.value.open ? 'Close it' : 'Open it' },
        { key: 'unfold', label: 'Unfold' },
      ]
    : []),
  { key: 'fold', label: about.value.length > 1 ? `Fold the ${about.value.length} slips` : 'Fold it' },
  ...wired.value.map((w) => ({ key: `unplug ${w.in}`, label: `Unplug ${w.name}` })),
  ...(wired.value.length ? [{ key: 'pull', label: 'Take out of its cables (X)' }] : []),
  { key: 'duplicate', label: 'Duplicate (Ctrl D)' },
  { key: 'copy', label: 'Copy (Ctrl C)' },
  { key: 'remove', label: 'Delete (Del)' },
])

function run(key: string): void {
  const graph = graphs.graph?.id ?? ''
  const slips = about.value
  const [what, input, onto] = key.split(' ')
  if (what === 'control')
    return void doc.gesture('value control', { graph, slip: props.id, ...(input && { in: input }), ...(onto && { onto }) })
  const wire = what === 'unplug' && graphs.leading.get(`${props.id}/${input}`)
  if (wire) return graphs.unplug(wire)
  const acts: Record<string, () => unknown> = {
    open: () => slip.value && graphs.edit(slip.value, { open: !slip.value.open }),
    unfold: () => doc.gesture('unfold', { graph, slip: props.id }),
    fold: () => graphs.fold(slips),
    pull: () => graphs.pull(slips),
    duplicate: () => ((graphs.picked = slips), copies.duplicate()),
    copy: () => ((graphs.picked = slips), graphs.copy()),
    remove: () => graphs.take(slips),
  }
  void acts[key]?.()
}
</script>

<template>
  <MenuList trigger="click" size="small" :options="options" @select="run">
    <button class="plain alone more nodrag" :aria-label="`Actions for ${slip?.title || graphs.given.get(id)?.called || 'the slip'}`">
      ⋯
    </button>
  </MenuList>
</template>

<style scoped>
.more {
  flex: none;
  width: 24px;
  height: 24px;
  color: var(--ink2);
  line-height: 1;
  opacity: 0;
}
.more:focus-visible,
.slip:hover .more,
.slip.selected .more,
.frame:hover .more,
.note:hover .more,
.note.selected .more,
.frame.selected .more {
  opacity: 1;
}
</style>
