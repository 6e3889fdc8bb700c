<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, useTemplateRef } from 'vue'
import IconTrash from '~icons/tabler/trash'
import { useGivingBack } from '@/composables/givingBack'
import { closers, hand } from '@/composables/hand'
import { usePosing, type Moved } from '@/composables/posing'
import type { Id, PoseStop, Value } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useWiring } from '@/stores/wiring'
import { useWorkspace } from '@/stores/workspace'
import AnyValue from '@/components/shared/AnyValue.vue'
import ControlWidget from './ControlWidget.vue'
import StopHead from './StopHead.vue'
import JackTag from '@/components/links/JackTag.vue'

/** The stops of a control of poses, and what it moves: properties against stops, every cell to be changed. */
const props = defineProps<{ item: Id; control: Id }>()
const doc = useDocument()
const wiring = useWiring()
const workspace = useWorkspace()
const posing = usePosing()

const self = computed(() => ({ item: props.item, control: props.control }))
const control = computed(() => posing.controlOf(props.item, props.control))
const spec = computed(() => doc.spec(props.item, props.control))
const stops = computed(() => control.value?.poses ?? [])
const rows = computed(() => posing.moved(props.item, props.control))
/** What it moves, by item; each row that is driven is a group of its own. */
const groups = computed(() => [...Map.groupBy(rows.value, (row) => row.of).entries()])
const now = computed(() => (spec.value ? (doc.numbers(props.item, spec.value)[0] ?? 0) : 0))

/** What a link does with its value, where that does not take the place of what is below. */
const operations: Record<string, string> = { add: 'added', multiply: 'multiplied' }
const held = (row: Moved, stop: Id): Value => row.link.held?.find((h) => h.stop === stop)?.value ?? null
const at = (stop: PoseStop) => ({ ...self.value, stop: stop.id })
function cell(how: 'preview' | 'gesture', row: Moved, stop: PoseStop, value: Value): void {
  void doc[how]('hold at stop', { ...at(stop), ...row.at, value })
}

const panel = useTemplateRef<HTMLElement>('panel')
const { began, back } = useGivingBack(() => null)
began()
onMounted(() => {
  hand.panel = 'poses'
  if (hand.byKeyboard) panel.value?.focus()
})
onBeforeUnmount(() => {
  if (hand.panel === 'poses') hand.panel = 'desk'
  back()
})

function escape(event: KeyboardEvent): void {
  if (closers.has(event)) return
  event.stopPropagation()
  workspace.posesOf = null
}

function remove({ at, link }: Moved): void {
  void doc.operations(at.spread ? { op: 'spread.remove', spread: at.spread } : { op: 'link.remove', ...at.target, link: link.id })
}
</script>

<template>
  <section
    v-if="control && spec"
    ref="panel"
    class="poses"
    tabindex="-1"
    :aria-label="`Poses of ${control.name}`"
    data-panel="poses"
    @keydown.esc="escape"
  >
    <header>
      <JackTag :jack="{ refs: [{ item, property: props.control }], type: spec.type, name: spec.name }" :tag="spec.tag" />
      <h2>{{ control.name }}</h2>
      <span class="live"><ControlWidget :item="item" :spec="spec" :driven="doc.state(item, props.control).links !== undefined" /></span>
      <span class="quiet">Drag a cable to a property, or pose a stop and change anything, to add properties.</span>
      <button class="plain act" @click="wiring.choose({ item, property: props.control }, spec.type)">Add property…</button>
      <button v-if="control.kind !== 'switch'" class="plain act" @click="doc.gesture('add stop', self)">Add stop here</button>
      <button class="plain act" @click="workspace.posesOf = null">Close</button>
    </header>
    <div class="scroll">
      <table>
        <thead>
          <tr>
            <th scope="col"><span class="hidden-label">What it moves</span></th>
            <th v-for="(s, k) in stops" :key="s.id" scope="col" :class="{ here: now === posing.placeOf(control, k) }">
              <StopHead :item="item" :control="control" :place="k" :unit="spec.unit" />
            </th>
            <td class="rest" />
          </tr>
        </thead>
        <tbody v-for="[of, all] in groups" :key="of">
          <tr class="of">
            <th scope="rowgroup" :colspan="stops.length + 2">
              {{ of }} <span class="quiet">{{ all[0]?.what }}</span>
            </th>
          </tr>
          <tr v-for="row in all" :key="row.link.id">
            <th scope="row">
              {{ row.property }}<span v-if="row.link.operation" class="quiet"> ({{ operations[row.link.operation] }})</span>
            </th>
            <td v-for="(s, k) in stops" :key="s.id" :class="{ here: now === posing.placeOf(control, k) }">
              <AnyValue
                v-if="held(row, s.id) !== null && row.spec"
                :spec="row.spec"
                :component="row.link.component"
                :added="row.link.operation === 'add'"
                :value="held(row, s.id)"
                :label="`${row.name} at ${s.name}`"
                @preview="(value) => cell('preview', row, s, value)"
                @commit="(value) => cell('gesture', row, s, value)"
                @cancel="doc.cancelPreview"
              />
              <span v-else class="quiet">between</span>
            </td>
            <td class="rest">
              <button class="plain act bin" :aria-label="`Remove ${row.name} from ${control.name}`" @click="remove(row)">
                <IconTrash />
              </button>
            </td>
          </tr>
        </tbody>
        <tbody v-if="!rows.length">
          <tr>
            <td :colspan="stops.length + 2" class="quiet">
              Nothing yet. Press <b>Pose</b> at a stop and change things in the viewport or on the Card.
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <span v-if="wiring.source" class="hidden-label" role="status">Drop the cable on a property.</span>
  </section>
</template>

<style scoped>
.poses:focus-visible {
  outline-offset: -2px;
}
.poses {
  position: absolute;
  inset: 30px 0 0;
  z-index: 5;
  display: flex;
  flex-direction: column;
  background: var(--card);
  border-top: 1px solid var(--line);
}
header {
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 4px 12px;
}
header .quiet {
  flex: 1;
  font-size: 12px;
}
h2 {
  font: 600 13px var(--face-heading);
}
.live {
  display: grid;
  grid-template-columns: 200px auto;
  gap: 8px;
  align-items: center;
}
.scroll {
  flex: 1;
  overflow: auto;
  padding: 0 12px 8px;
}
/* A stop is a column under its head; what is left over is the last one's. */
table {
  border-collapse: collapse;
  font-size: 12px;
  width: 100%;
}
th,
td {
  text-align: left;
  padding: 2px 12px;
  border: 1px solid var(--line);
  border-width: 0 0 1px 1px;
}
th:first-child {
  padding-left: 0;
  border-left: 0;
}
thead th {
  vertical-align: top;
  padding: 8px 12px;
  min-width: 240px;
}
thead th:first-child {
  min-width: 150px;
}
th[scope='row'] {
  font-weight: 400;
  padding-left: 14px;
}
.of th {
  padding: 6px 0 2px;
  font: 600 13px var(--face-heading);
}
.of .quiet {
  font: 400 12px var(--face-text);
}
.rest {
  width: 100%;
}
.here {
  background: var(--picked);
}
.bin {
  opacity: 0;
}
tr:hover .bin,
.bin:focus-visible {
  opacity: 1;
}
</style>
<style scoped src="./act.css" />
