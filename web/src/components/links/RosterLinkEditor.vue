<script setup lang="ts">
import { NSwitch } from 'naive-ui'
import { computed } from 'vue'
import { driving, memberId, rosters, saysWho, weightSources } from '@/composables/roster'
import { useLinks } from '@/composables/links'
import { message } from '@/composables/notify'
import { typing } from '@/composables/typingAhead'
import type { Edit, Id, Link, Roster, Spec, RosterLink } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useGraphs } from '@/stores/graphs'
import { useSelection } from '@/stores/selection'
import { useWiring } from '@/stores/wiring'
import EditableName from '@/components/shared/EditableName.vue'
import { linkKinds } from './linkKinds'
import RowMembers from './RowMembers.vue'
import LinkFrame from './LinkFrame.vue'
import StaggerFields from './StaggerFields.vue'
import ValueField from '@/components/shared/ValueField.vue'

/** One link on a whole roster: who is in it, what drives it, and what each member gets in turn. */
const props = defineProps<{ spread: RosterLink; property: Spec; items: Id[] }>()
const doc = useDocument()
const graphs = useGraphs()
const selection = useSelection()
const wiring = useWiring()
const links = useLinks()

const link = computed(() => props.spread.link)
const writer = computed(() => linkKinds[link.value.kind].writer)
const members = computed(() => props.spread.members ?? [])
const here = computed(() =>
  members.value.filter((m) => m.property === props.property.key && props.items.includes(m.item)).map((m) => memberId(props.spread, m)),
)
const out = computed(() => here.value.every((id) => props.spread.out?.includes(id)))
const kind = computed(() => links.kind(link.value.kind))
const roster = computed(() => saysWho(doc, props.spread.roster))

function op(what: Partial<RosterLink>): Edit {
  const { members: _, ...value } = { ...props.spread, ...what }
  return { op: 'spread.set', value }
}
const change = (what: Partial<RosterLink>): void => void doc.operations(op(what))
const alter = (what: Partial<Link>): void => change({ link: { ...link.value, ...what } })
const preview = (what: Partial<Link>): void => void doc.preview('operations', { ops: doc.here(op({ link: { ...link.value, ...what } })) })

function opt(into: boolean): void {
  const others = (props.spread.out ?? []).filter((id) => !here.value.includes(id))
  change({ out: into ? others : [...others, ...here.value] })
}

const single = computed(() => ['vertices', 'copies'].includes(props.spread.roster.kind))

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
  { key: 'shuffle', label: seed.value ? 'Restore order' : 'Shuffle order' },
  { key: 'again', label: 'Reshuffle', disabled: !seed.value },
  { key: 'fit', label: 'Match ranges', disabled: !kind.value?.linear },
  { key: 'map', label: 'Convert to map', disabled: !kind.value?.linear },
  { key: 'graph', label: 'Open as a graph', disabled: !!link.value.graph },
  { key: 'copy', label: 'Copy link', disabled: !!link.value.graph },
  { key: 'seconds', label: link.value.seconds ? 'Show delay in frames' : 'Show delay in seconds' },
  ...(single.value
    ? []
    : [
        {
          key: 'except',
          label: here.value.length > 1 ? `Own links for the ${here.value.length} selected` : 'Own link for this item',
          disabled: !here.value.length || out.value,
        },
        { key: 'apart', label: 'A link for each member' },
      ]),
])
const seed = computed(() => link.value.stagger?.seed ?? 0)
const shuffled = (seed: number): void => alter({ stagger: { ...link.value.stagger, seed } })
/** Lets another source drive the row. */
const reattach = typing((): void => {
  const target = { item: props.items[0] ?? '', property: props.property.key }
  wiring.reattaching = { target, link: link.value.id, spread: props.spread.id }
  wiring.finding = [target]
})
const find = (roster: Roster): void => void doc.gesture('find members', { spread: props.spread.id, roster })

function run(key: string): void {
  const other = rosters(doc, props.spread, selection.ids).find((r) => r.key === key)?.roster
  const [item, property] = key.slice(key.indexOf(':') + 1).split('/')
  const spread = props.spread.id
  const acts: Record<string, () => unknown> = {
    graph: () => graphs.openLink({ target: { item: '', property: '' }, spread }),
    fit: () => doc.gesture('fit ranges', { targets: [], link: '', spread }),
    map: () => doc.gesture('to map', { targets: [], link: '', spread }),
    copy: () => {
      wiring.copied = { ...link.value, component: props.spread.component }
      message.info('Link copied. Paste it from the menu of any property.', { duration: 2500 })
    },
    seconds: () => alter({ seconds: !link.value.seconds }),
    except: () => doc.gesture('single links', { spread, members: here.value }),
    apart: () => doc.gesture('single links', { spread }),
    shuffle: () => shuffled(seed.value ? 0 : 1),
    again: () => shuffled(seed.value + 1),
  }
  if (acts[key]) void acts[key]()
  else if (other) find(other)
  else if (key.startsWith('pair:')) change({ pair: item ? { kind: 'children', item } : undefined })
  else if (key.startsWith('weight:')) change({ weightFrom: item && property ? { item, property } : undefined })
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
      ><button class="plain from" title="Choose another source" @click="reattach">{{ doc.nameOf(link.source) }}</button></template
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
      <RowMembers
        v-if="!single && !spread.roster.of"
        class="wide"
        :spread="spread"
        @drive="(item, key) => change(driving(spread, [item], key))"
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
    <template #stagger
      ><StaggerFields :link="shown" :property="property" :spread="spread.id" @preview="preview" @change="alter"
    /></template>
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
.pattern {
  font: inherit;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
  color: var(--ink);
  padding: 0 6px;
}
</style>
