<script setup lang="ts">
import { NSwitch } from 'naive-ui'
import { computed } from 'vue'
import { memberId, rosters, saysWho, weightSources } from '@/composables/roster'
import type { Edit, Id, Link, Roster, Spec, RosterLink, Stagger } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useGraphs } from '@/stores/graphs'
import { useSelection } from '@/stores/selection'
import EditableName from '@/components/shared/EditableName.vue'
import { linkKinds } from './linkKinds'
import RowMembers from './RowMembers.vue'
import AxisFields from './AxisFields.vue'
import LinkFrame from './LinkFrame.vue'
import ValueField from '@/components/shared/ValueField.vue'
import ChoiceField from '@/components/shared/ChoiceField.vue'

/** One link on a whole roster: who is in it, what drives it, and what each member gets in turn. */
const props = defineProps<{ spread: RosterLink; property: Spec; items: Id[] }>()
const doc = useDocument()
const graphs = useGraphs()
const selection = useSelection()

const link = computed(() => props.spread.link)
const writer = computed(() => linkKinds[link.value.kind].writer)
const members = computed(() => props.spread.members ?? [])
const here = computed(() =>
  members.value.filter((m) => m.property === props.property.key && props.items.includes(m.item)).map((m) => memberId(props.spread, m)),
)
const out = computed(() => here.value.every((id) => props.spread.out?.includes(id)))
const stagger = computed<Stagger>(() => link.value.stagger ?? {})
const roster = computed(() => saysWho(doc, props.spread.roster))

function op(what: Partial<RosterLink>): Edit {
  const { members: _, ...value } = { ...props.spread, ...what }
  return { op: 'spread.set', value }
}
const change = (what: Partial<RosterLink>): void => void doc.operations(op(what))
const alter = (what: Partial<Link>): void => change({ link: { ...link.value, ...what } })
const preview = (what: Partial<Link>): void => void doc.preview('operations', { ops: doc.here(op({ link: { ...link.value, ...what } })) })
const addUp = (what: Stagger): Partial<Link> => ({ stagger: { ...stagger.value, ...what } })

function opt(into: boolean): void {
  const others = (props.spread.out ?? []).filter((id) => !here.value.includes(id))
  change({ out: into ? others : [...others, ...here.value] })
}

const fields: { key: 'gain' | 'delay'; label: string; step: number; unit?: string }[] = [
  { key: 'gain', label: 'Gain', step: 0.1 },
  { key: 'delay', label: 'Delay', step: 1, unit: 'f' },
]
const countings = [
  { label: '× index (0, 1, 2…)', value: '' },
  { label: '× number (1, 2, 3…)', value: 'number' },
  { label: 'spread across the row', value: 'share' },
]

const parts = computed(() => [{ label: 'all', value: '' }, ...(props.property.parts ?? []).map((part) => ({ label: part, value: part }))])
const part = computed(() => props.spread.parts?.[here.value[0] ?? ''] ?? '')
/** Lets the members that are selected drive a component of their own. */
function setPart(value: string): void {
  const rest = Object.entries(props.spread.parts ?? {}).filter(([id]) => !here.value.includes(id))
  const all = Object.fromEntries(value ? [...rest, ...here.value.map((id) => [id, value])] : rest)
  change({ parts: Object.keys(all).length ? all : undefined })
}

/** The members that show what the link gives: those selected, or, of copies, the first. */
const model = computed(() => (props.spread.roster.kind === 'copies' ? [`${props.spread.roster.item}~1`] : props.items))
/** The link as it stands on the members that are selected. */
const shown = computed<Link>(() => ({ ...link.value, component: props.spread.component }))

const weights = computed(() => weightSources(doc))
const menu = computed(() => [
  ...rosters(doc, props.spread, selection.ids).map((r) => ({ key: r.key, label: r.label, disabled: !r.roster })),
  {
    key: 'pair',
    label: 'Pair with children of',
    children: [{ key: 'pair:', label: 'None' }, ...doc.nullNames.map(({ id, name }) => ({ key: 'pair:' + id, label: name }))],
  },
  { key: 'weight', label: 'Drive weight with', children: [{ key: 'weight:', label: 'None (fixed value)' }, ...weights.value] },
  { key: 'shuffle', label: stagger.value.seed ? 'Restore order' : 'Shuffle order' },
  { key: 'again', label: 'Reshuffle', disabled: !stagger.value.seed },
  { key: 'graph', label: 'Open as a graph', disabled: !!link.value.graph },
])
const find = (roster: Roster): void => void doc.gesture('find members', { spread: props.spread.id, roster })

function run(key: string): void {
  const other = rosters(doc, props.spread, selection.ids).find((r) => r.key === key)?.roster
  const [item, property] = key.slice(key.indexOf(':') + 1).split('/')
  if (key === 'graph') void graphs.openLink({ target: { item: '', property: '' }, spread: props.spread.id })
  else if (other) find(other)
  else if (key.startsWith('pair:')) change({ pair: item ? { kind: 'children', item } : undefined })
  else if (key.startsWith('weight:')) change({ weightFrom: item && property ? { item, property } : undefined })
  else alter(addUp({ seed: key === 'again' ? (stagger.value.seed ?? 0) + 1 : stagger.value.seed ? 0 : 1 }))
}
</script>

<template>
  <LinkFrame
    row
    :link="shown"
    :property="property"
    :label="`Row: ${spread.name}`"
    :called="spread.name"
    :menu="menu"
    :about="{ spread: spread.id }"
    @preview="preview"
    @change="alter"
    @run="run"
    @remove="doc.operations({ op: 'spread.remove', spread: spread.id })"
  >
    <template #title><EditableName label="Name of the link" :name="spread.name" @rename="(name) => change({ name })" /></template>
    <template v-if="!writer && !link.graph" #source
      ><span class="from">{{ doc.nameOf(link.source) }}</span></template
    >
    <template #members>
      <span v-if="spread.roster.kind === 'copies'" class="wide quiet">{{ roster }}</span>
      <span v-else class="wide quiet"
        >{{ members.length === 1 ? '1 item' : `${members.length} items` }}: {{ roster
        }}<template v-if="spread.pair">, paired with the children of {{ doc.items.get(spread.pair.item ?? '')?.name }}</template></span
      >
      <input
        v-if="spread.roster.kind === 'named'"
        class="wide pattern"
        :value="spread.roster.pattern"
        aria-label="Name pattern (* matches anything)"
        @keydown.stop
        @change="find({ kind: 'named', pattern: ($event.target as HTMLInputElement).value })"
      />
      <label v-if="here.length" class="cell"
        >Include <NSwitch size="small" :value="!out" aria-label="Include this item" @update:value="opt"
      /></label>
      <div v-if="here.length && property.parts && !spread.component" class="cell">
        Drives here
        <ChoiceField
          class="own"
          size="tiny"
          :value="part"
          :options="parts"
          label="The component that this member drives"
          @update:value="setPart"
        />
      </div>
      <RowMembers
        v-if="!['vertices', 'copies'].includes(spread.roster.kind) && !spread.roster.of"
        class="wide"
        :members="members.map((m) => m.item)"
        @order="(items) => change({ roster: { ...spread.roster, items, made: spread.roster.kind !== 'picked' || undefined } })"
      />
    </template>
    <component
      :is="writer"
      v-if="writer"
      :target="{ item: items[0] ?? '', property: property.key }"
      :spread="spread.id"
      :name="spread.name"
      @preview="(text: string) => doc.preview('spread formula', { spread: spread.id, text })"
      @apply="(text: string) => doc.gesture('spread formula', { spread: spread.id, text })"
    />
    <component
      :is="linkKinds[link.kind].editor"
      v-else-if="linkKinds[link.kind].editor"
      :link="shown"
      :property="property"
      :items="model"
      :spread="spread.id"
      @preview="preview"
      @change="alter"
    />
    <template #stagger>
      <span class="wide quiet heading">Stagger: for each member in turn</span>
      <div class="cell wide">
        Offset
        <AxisFields
          label="Stagger of offset"
          :link="shown"
          :property="property"
          :offset="stagger.offset ?? 0"
          :offsets="stagger.offsets"
          @preview="(what) => preview(addUp(what))"
          @change="(what) => alter(addUp(what))"
        />
      </div>
      <label v-for="f in fields" :key="f.key" class="cell"
        >{{ f.label }}
        <ValueField
          :label="`Stagger of ${f.key}`"
          :value="stagger[f.key] ?? 0"
          :step="f.step"
          :unit="f.unit"
          @preview="(x) => preview(addUp({ [f.key]: x }))"
          @commit="(x) => alter(addUp({ [f.key]: x }))"
          @cancel="doc.cancelPreview"
      /></label>
      <div class="cell wide">
        Counted
        <ChoiceField
          class="counting"
          size="tiny"
          :value="stagger.by ?? ''"
          :options="countings"
          label="How members are counted"
          @update:value="(by: string) => alter(addUp({ by: (by || undefined) as Stagger['by'] }))"
        />
      </div>
      <span class="wide quiet heading">The link</span>
    </template>
    <template #weight>
      <span v-if="spread.weightFrom" class="wide from">weight from {{ doc.nameOf(spread.weightFrom) }}</span>
      <label v-else class="cell"
        >Weight
        <ValueField
          label="Weight"
          :value="spread.weight ?? 100"
          :min="0"
          :max="100"
          unit="%"
          @preview="(weight) => doc.preview('operations', { ops: doc.here(op({ weight })) })"
          @commit="(weight) => change({ weight })"
          @cancel="doc.cancelPreview"
      /></label>
    </template>
  </LinkFrame>
</template>

<style scoped src="./editor.css" />

<style scoped>
.heading {
  border-top: 1px solid var(--line);
  padding-top: 3px;
  margin-top: 3px;
}
.pattern {
  font: inherit;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
  color: var(--ink);
  padding: 0 6px;
}
.counting {
  width: 160px;
}
.own {
  width: 72px;
}
</style>
