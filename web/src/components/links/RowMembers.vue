<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { drivenBy, driveChoices } from '@/composables/roster'
import { useStepping } from '@/composables/stepping'
import { useWindowed } from '@/composables/windowed'
import type { Id, RosterLink } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useWiring } from '@/stores/wiring'
import ChoiceField from '@/components/shared/ChoiceField.vue'

/** The members of a row in the order in which they are counted, which dragging changes; by keyboard, Alt with the arrows. Each may drive a
 * property of its own. */
const props = defineProps<{ spread: RosterLink }>()
const emit = defineEmits<{ order: [members: Id[]]; drive: [member: Id, key: string] }>()
const doc = useDocument()
const wiring = useWiring()
const members = computed(() => (props.spread.members ?? []).map((m) => ({ id: m.item, drives: drivenBy(props.spread, m) })))
const choices = (id: Id): { label: string; value: string }[] => driveChoices(doc, props.spread, id, wiring.fits)

const open = ref(false)
const dragged = ref(-1)
const over = ref(-1)
const height = 26
const { list, containerProps, wrapperProps } = useWindowed(members, { itemHeight: height, overscan: 4 })

const steps = useStepping<Id[]>(() => members.value.map((m) => m.id))
function put(id: Id | undefined, to: number): void {
  const order = steps.from()
  if (!id || to < 0 || to >= order.length || order.indexOf(id) === to) return
  const rest = order.filter((m) => m !== id)
  emit('order', steps.to([...rest.slice(0, to), id, ...rest.slice(to)]))
}

/** The member that is moved by keys: it keeps them, until they are elsewhere. */
let carried: Id | undefined
watch(
  list,
  () => {
    const at = carried && box()?.querySelector<HTMLElement>(`[data-member="${CSS.escape(carried)}"]`)
    if (at && [document.body, at].includes(document.activeElement as HTMLElement)) at.focus()
    else carried = undefined
  },
  { flush: 'post' },
)
const box = (): HTMLElement | null => containerProps.ref.value

function key(event: KeyboardEvent, id: Id, at: number): void {
  const by = { ArrowUp: -1, ArrowDown: 1 }[event.key]
  if (!by) return
  event.preventDefault()
  event.stopPropagation()
  if (event.altKey) {
    carried = id
    put(id, steps.from().indexOf(id) + by)
  } else
    box()
      ?.querySelector<HTMLElement>(`[data-place="${at + by}"]`)
      ?.focus()
}

function drop(to: number): void {
  put(members.value[dragged.value]?.id, to)
  dragged.value = over.value = -1
}
</script>

<template>
  <div class="members">
    <button class="plain fold" :aria-expanded="open" @click="open = !open">
      <span aria-hidden="true">{{ open ? '▾' : '▸' }}</span> Members: order, and what each drives
    </button>
    <div v-if="open" v-bind="containerProps" class="list" :style="{ height: Math.min(6, members.length) * height + 'px' }">
      <ol v-bind="wrapperProps" aria-label="Members in the order in which they are counted; Alt with the arrows moves one">
        <li
          v-for="{ data: m, index: k } in list"
          :key="m.id"
          draggable="true"
          tabindex="0"
          :data-place="k"
          :data-member="m.id"
          :class="{ over: over === k }"
          @dragstart="dragged = k"
          @dragover.prevent="over = k"
          @dragend="dragged = over = -1"
          @drop.prevent="drop(k)"
          @keydown.self="key($event, m.id, k)"
        >
          <span class="figures">{{ k + 1 }}</span><span class="name" :class="{ quiet: spread.out?.includes(m.id) }"
            >{{ doc.items.get(m.id)?.name }}{{ spread.out?.includes(m.id) ? ', left out' : '' }}</span
          ><ChoiceField
            class="drives"
            size="tiny"
            filterable
            :value="m.drives"
            :options="choices(m.id)"
            :label="`What ${doc.items.get(m.id)?.name} drives here`"
            :consistent-menu-width="false"
            @update:value="(key: string) => emit('drive', m.id, key)"
          />
        </li>
      </ol>
    </div>
  </div>
</template>

<style scoped>
.members {
  margin: 2px 0;
}
.fold {
  font-size: 11px;
  color: var(--ink2);
}
.list {
  overflow: auto;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
}
ol {
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  gap: 8px;
  height: 26px;
  align-items: center;
  padding: 0 8px;
  font-size: 12px;
  cursor: grab;
}
li.over {
  box-shadow: inset 0 2px var(--brass);
}
.name {
  flex: 1;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.drives {
  width: 116px;
  flex: none;
}
.figures {
  min-width: 24px;
  text-align: right;
  color: var(--brassText);
}
</style>
