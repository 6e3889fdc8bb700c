<script setup lang="ts">
import { NDropdown, NSwitch } from 'naive-ui'
import { computed } from 'vue'
import IconTrash from '~icons/tabler/trash'
import { useLinks } from '@/composables/links'
import { memberId, rosters, saysWho } from '@/composables/roster'
import type { Edit, Id, Link, Roster, Spec, RosterLink, Stagger } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useGraphs } from '@/stores/graphs'
import { useSelection } from '@/stores/selection'
import EditableName from '@/components/shared/EditableName.vue'
import { linkKinds } from './linkKinds'
import RowMembers from './RowMembers.vue'
import LinkDoes from './LinkDoes.vue'
import LinkGain from './LinkGain.vue'
import ValueField from '@/components/shared/ValueField.vue'
import ChoiceField from '@/components/shared/ChoiceField.vue'

/** One link on a whole roster: who is in it, what drives it, and what each member gets in turn. */
const props = defineProps<{ spread: RosterLink; property: Spec; items: Id[] }>()
const doc = useDocument()
const graphs = useGraphs()
const selection = useSelection()

const link = computed(() => props.spread.link)
const links = useLinks()
const kind = computed(() => links.kind(link.value.kind))
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

const fields: { key: 'offset' | 'gain' | 'delay'; step: number }[] = [
  { key: 'offset', step: 1 },
  { key: 'gain', step: 0.1 },
  { key: 'delay', step: 1 },
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

/** The sliders that can be the weight. */
const weights = computed(() =>
  doc.nulls
    .flatMap((id) =>
      (doc.items.get(id)?.controls ?? [])
        .filter((c) => c.kind === 'fader')
        .map((c) => ({ key: `weight:${id}/${c.id}`, label: `${doc.items.get(id)?.name}: ${c.name}` })),
    )
    .slice(0, 40),
)

const menu = computed(() => [
  ...rosters(doc, props.spread, selection.ids).map((r) => ({ key: r.key, label: r.label, disabled: !r.roster })),
  {
    key: 'pair',
    label: 'Pair with children of',
    children: [{ key: 'pair:', label: 'None' }, ...doc.nulls.map((id) => ({ key: 'pair:' + id, label: doc.items.get(id)?.name ?? '' }))],
  },
  { key: 'weight', label: 'Drive weight with', children: [{ key: 'weight:', label: 'None (fixed value)' }, ...weights.value] },
  { key: 'shuffle', label: stagger.value.seed ? 'Restore order' : 'Shuffle order' },
  { key: 'again', label: 'Reshuffle', disabled: !stagger.value.seed },
  { key: 'graph', label: 'Open as a graph', disabled: !!link.value.graph },
  {
    key: 'world',
    label: link.value.world ? 'Use parent space' : 'Use composition space',
    disabled: !!props.spread.component || !(props.property.group === 'Vertices' || ['position', 'rotation'].includes(props.property.key)),
  },
])
const find = (roster: Roster): void => void doc.gesture('find members', { spread: props.spread.id, roster })

function run(key: string): void {
  const other = rosters(doc, props.spread, selection.ids).find((r) => r.key === key)?.roster
  const [item, property] = key.slice(key.indexOf(':') + 1).split('/')
  if (key === 'graph') void graphs.openLink({ target: { item: '', property: '' }, spread: props.spread.id })
  else if (key === 'world') alter({ world: !link.value.world })
  else if (other) find(other)
  else if (key.startsWith('pair:')) change({ pair: item ? { kind: 'children', item } : undefined })
  else if (key.startsWith('weight:')) change({ weightFrom: item && property ? { item, property } : undefined })
  else alter(addUp({ seed: key === 'again' ? (stagger.value.seed ?? 0) + 1 : stagger.value.seed ? 0 : 1 }))
}
</script>

<template>
  <div class="spread" :class="{ off: link.off }" role="group" :aria-label="`Row: ${spread.name}`">
    <div class="line">
      <b>{{ kind?.name }}</b>
      <EditableName class="name" label="Name of the link" :name="spread.name" @rename="(name) => change({ name })" />
      <NSwitch size="small" :value="!link.off" aria-label="Link is on" @update:value="(on: boolean) => alter({ off: !on })" />
      <NDropdown trigger="click" size="small" :options="menu" placement="bottom-end" @select="run"
        ><button class="plain icon" :aria-label="`Actions for ${spread.name}`">⋯</button></NDropdown
      >
      <button
        class="plain icon"
        :aria-label="`Remove ${spread.name}`"
        title="Remove link"
        @click="doc.operations({ op: 'spread.remove', spread: spread.id })"
      >
        <IconTrash />
      </button>
    </div>
    <div class="line quiet">
      <span
        >{{ members.length === 1 ? '1 item' : `${members.length} items` }}: {{ roster
        }}<template v-if="spread.pair">, paired with the children of {{ doc.items.get(spread.pair.item ?? '')?.name }}</template></span
      >
      <input
        v-if="spread.roster.kind === 'named'"
        class="pattern"
        :value="spread.roster.pattern"
        aria-label="Name pattern (* matches anything)"
        @keydown.stop
        @change="find({ kind: 'named', pattern: ($event.target as HTMLInputElement).value })"
      />
      <span v-if="here.length && property.parts && !spread.component" class="opt"
        >Drives here
        <ChoiceField
          class="own"
          size="tiny"
          :value="part"
          :options="parts"
          label="The component that this member drives"
          @update:value="setPart"
      /></span>
      <label v-if="here.length" class="opt"
        >Include <NSwitch size="small" :value="!out" aria-label="Include this item" @update:value="opt"
      /></label>
    </div>
    <RowMembers
      v-if="spread.roster.kind !== 'vertices' && !spread.roster.of"
      :members="members.map((m) => m.item)"
      @order="(items) => change({ roster: { ...spread.roster, items, made: spread.roster.kind !== 'picked' || undefined } })"
    />
    <component
      :is="writer"
      v-if="writer"
      :target="{ item: items[0] ?? '', property: property.key }"
      :spread="spread.id"
      :name="spread.name"
      @preview="(text: string) => doc.preview('spread formula', { spread: spread.id, text })"
      @apply="(text: string) => doc.gesture('spread formula', { spread: spread.id, text })"
    />
    <component :is="linkKinds.graph.editor" v-else-if="link.graph" :link="link" :property="property" :items="items" :spread="spread.id" />
    <div v-else class="line">
      <span class="from">{{ doc.nameOf(link.source) }}</span>
      <LinkGain v-if="kind?.linear" :link="link" @preview="preview" @change="alter" />
    </div>
    <div class="line">
      <span class="quiet">Stagger</span>
      <label v-for="f in fields" :key="f.key"
        >{{ f.key }}
        <ValueField
          :label="`Stagger of ${f.key}`"
          :value="stagger[f.key] ?? 0"
          :step="f.step"
          @preview="(x) => preview(addUp({ [f.key]: x }))"
          @commit="(x) => alter(addUp({ [f.key]: x }))"
          @cancel="doc.cancelPreview"
        />{{ f.key === 'delay' ? 'f' : '' }}</label
      >
      <ChoiceField
        class="counting"
        size="tiny"
        :value="stagger.by ?? ''"
        :options="countings"
        label="How members are counted"
        @update:value="(by: string) => alter(addUp({ by: (by || undefined) as Stagger['by'] }))"
      />
    </div>
    <LinkDoes :link="link" :property="property" @preview="preview" @change="alter">
      <span v-if="spread.weightFrom" class="from">weight from {{ doc.nameOf(spread.weightFrom) }}</span>
      <label v-else
        >weight
        <ValueField
          label="Weight"
          :value="spread.weight ?? 100"
          :min="0"
          :max="100"
          @preview="(weight) => doc.preview('operations', { ops: doc.here(op({ weight })) })"
          @commit="(weight) => change({ weight })"
          @cancel="doc.cancelPreview"
        />%</label
      >
    </LinkDoes>
  </div>
</template>

<style scoped src="./editor.css" />

<style scoped>
.spread {
  border: 1px solid var(--line);
  border-left: 4px double var(--verdigris);
  border-radius: 4px;
  background: var(--sunk);
  padding: 4px 8px;
  margin-top: 3px;
}
.spread.off {
  border-left-color: var(--track);
}
.name {
  flex: 1;
  min-width: 0;
  color: var(--verdigris);
}
.from {
  flex: 1;
  color: var(--verdigris);
}
.opt {
  margin: 0 0 3px auto;
}
.opt + .opt {
  margin-left: 0;
}
.pattern {
  width: 110px;
  font: inherit;
  font-size: 12px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
  color: var(--ink);
  padding: 0 6px;
}
.counting {
  width: 120px;
}
.own {
  width: 72px;
}
</style>
