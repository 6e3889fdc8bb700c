<script setup lang="ts">
import { computed } from 'vue'
import { walk } from '@/composables/walk'
import type { Edit, Ref, Spec } from '@/core/types'
import { typeAhead, typing } from '@/composables/typingAhead'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'
import { useWiring } from '@/stores/wiring'
import { useWorkspace } from '@/stores/workspace'
import MenuList from '@/components/shared/MenuList.vue'

/** What can be done with a property besides setting it. */
const props = defineProps<{ spec: Spec; refs: Ref[]; wired: boolean; part?: string }>()
const doc = useDocument()
const selection = useSelection()
const wiring = useWiring()
const workspace = useWorkspace()

const rigs = computed(() =>
  doc.nullNames
    .filter(({ id, copied }) => !copied && (props.refs.length > 1 ? !selection.has(id) : props.refs[0]?.item !== id))
    .slice(0, 30),
)
const posed = computed(() => doc.poses.some((p) => p.property === props.spec.key && props.refs.some((r) => r.item === p.item)))
const state = computed(() => doc.state(props.refs[0]?.item ?? '', props.spec.key))
const baked = computed(() => doc.statesAt(props.refs).some((s) => s.baked))
/** The limits that were set: of the component, or of all and each of them. */
const limited = computed(() => {
  const { min, max, limits } = state.value
  return props.part ? limits?.[props.part] !== undefined : min !== undefined || max !== undefined || limits !== undefined
})

const vertex = computed(
  () => props.spec.group === 'Vertices' && !props.spec.readOnly && props.refs.every((r) => doc.items.get(r.item)?.path),
)

/** What becomes a control: the property, with those that are selected beside it. */
const gathered = (): Ref[] => (selection.properties.includes(props.spec.key) ? selection.targets.filter((r) => !r.component) : props.refs)

const options = computed(() => [
  { key: 'why', label: 'Why doesn’t it move?' },
  { key: 'reach', label: 'What does it drive?' },
  { key: 'curves', label: 'Show its curve' },
  { key: 'link', label: 'Link… (L)', disabled: props.spec.readOnly },
  {
    key: 'formula',
    label: props.refs.length > 1 ? `Formula on each item (${props.refs.length})` : 'Formula',
    disabled: props.spec.readOnly,
  },
  ...(vertex.value ? [{ key: 'row', label: 'One formula for all vertices' }] : []),
  ...(!vertex.value && props.refs.length > 1
    ? [{ key: 'row', label: `One formula for all ${props.refs.length}`, disabled: props.spec.readOnly }]
    : []),
  { key: 'paste', label: 'Paste link', disabled: !wiring.copied || props.spec.readOnly },
  {
    key: 'gather',
    label: gathered().length > props.refs.length ? `Turn ${gathered().length} into controls on…` : 'Turn into a control on…',
    disabled: props.spec.readOnly || !!props.part,
    children: [...rigs.value.map(({ id, name }) => ({ key: 'on:' + id, label: name })), { key: 'on:new', label: 'A new null' }],
  },
  ...(posed.value
    ? [
        { key: 'own', label: 'Keep as own value' },
        { key: 'offset', label: 'Keep as offset' },
        { key: 'drop', label: 'Discard pose' },
      ]
    : []),
  ...(baked.value ? [{ key: 'unbake', label: 'Undo bake' }] : []),
  { key: 'bake', label: 'Bake to pins…', disabled: !props.wired || props.spec.type === 'text' },
  { key: 'bounds', label: 'Limits…', disabled: props.spec.readOnly || !/number|point/.test(props.spec.type) },
  {
    key: 'limits',
    label: limited.value ? 'Unlock' : 'Lock at this value',
    disabled: props.spec.readOnly || props.spec.type === 'text',
  },
  { key: 'reset', label: 'Reset to default', disabled: props.spec.readOnly || !!props.part },
])

async function gather(onto: string): Promise<void> {
  const refs = gathered()
  await doc.gesture('gather', { refs, onto: onto === 'new' ? '' : onto })
}

/** Puts a formula on the property and opens its editor. */
async function add(gesture: 'formula' | 'spread', text: string): Promise<void> {
  const give = typeAhead()
  if (!(await wiring.write(gesture, props.refs, text || 'own', true))) give.up()
}

type LimitsSet = Extract<Edit, { op: 'limits.set' }>
const limit = (r: Ref, component: string | undefined, v: number | null): LimitsSet => ({
  op: 'limits.set',
  item: r.item,
  property: r.property,
  component,
  min: v,
  max: v,
})
/** Holds each component where it is; one alone where the menu is that of one. */
const locked = (r: Ref): LimitsSet[] => {
  const parts = props.part ? [props.part] : (props.spec.parts ?? [undefined])
  const numbers = doc.numbers(r.item, props.spec)
  return parts.map((part) => limit(r, part, numbers[part ? (props.spec.parts?.indexOf(part) ?? 0) : 0] ?? 0))
}
const unlocked = (r: Ref): LimitsSet[] =>
  props.part
    ? [limit(r, props.part, null)]
    : [limit(r, undefined, null), ...Object.keys(doc.state(r.item, r.property).limits ?? {}).map((part) => limit(r, part, null))]

function run(key: string): void {
  if (key.startsWith('on:')) return void gather(key.slice(3))
  const first = props.refs[0]
  const pose = (as: 'own' | 'offset' | ''): unknown => doc.gesture('use pose', { targets: props.refs, as })
  const acts: Record<string, () => unknown> = {
    why: () => first && walk('why', `Why doesn’t ${doc.nameOf(first)} move?`, first),
    reach: () => first && walk('reach', `What does ${doc.nameOf(first)} drive?`, first),
    own: () => pose('own'),
    offset: () => pose('offset'),
    drop: () => pose(''),
    curves: () => {
      selection.pickProperty(props.spec.key, false)
      workspace.tab = 'curves'
    },
    formula: () => add('formula', ''),
    row: () => add('spread', 'own'),
    unbake: () => doc.gesture('undo bake', { targets: props.refs }),
    bake: () => (workspace.baking = props.refs),
    link: typing(() => (wiring.finding = props.refs)),
    paste: () => wiring.copied && doc.gesture('paste link', { link: wiring.copied, targets: props.refs }),
    limits: () => doc.operations(...props.refs.flatMap(limited.value ? unlocked : locked)),
    bounds: () => (workspace.limiting = props.refs),
    reset: () => doc.operations(...props.refs.map((r) => ({ op: 'own.set' as const, ...r, value: null }))),
  }
  void acts[key]?.()
}
</script>

<template>
  <MenuList trigger="click" size="small" :options="options" placement="bottom-end" @select="run">
    <button class="plain menu" :aria-label="`Actions for ${spec.name}${part ? '.' + part : ''}`">⋯</button>
  </MenuList>
</template>

<style scoped>
.menu {
  width: 24px;
  height: 24px;
  color: var(--ink2);
  border-radius: 3px;
  opacity: 0.55;
  flex: none;
}
.menu:hover,
.menu:focus-visible {
  opacity: 1;
  background: var(--picked);
}
</style>
