<script setup lang="ts">
import { computed, useTemplateRef } from 'vue'
import IconEye from '~icons/tabler/eye'
import IconEyeOff from '~icons/tabler/eye-off'
import IconLock from '~icons/tabler/lock'
import IconOut from '~icons/tabler/photo-off'
import IconUnlock from '~icons/tabler/lock-open'
import type { Id } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'
import { useWiring } from '@/stores/wiring'
import EditableName from '@/components/shared/EditableName.vue'
import KindIcon from '@/components/shared/KindIcon.vue'

/** One item of the tree. */
const props = defineProps<{ id: Id; depth: number; folded: boolean | undefined; place: number; of: number }>()
defineEmits<{ press: [event: MouseEvent]; fold: [] }>()

const doc = useDocument()
const selection = useSelection()
const wiring = useWiring()
const name = useTemplateRef<InstanceType<typeof EditableName>>('name')
/** Looked up here, so that a change of one item touches its row alone. */
const item = computed(() => doc.items.get(props.id))
const at = computed(() => selection.placeOf(props.id))
const number = computed(() => selection.numbers.get(props.id))

function set(what: { name: string } | { locked: boolean } | { hidden: boolean } | { notInOutput: boolean }): void {
  void doc.operations({ op: 'item.set', item: props.id, ...what })
}

defineExpose({ edit: () => name.value?.edit() })
</script>

<template>
  <div
    v-if="item"
    :id="`item-${id}`"
    class="row"
    role="treeitem"
    :data-item="id"
    :aria-level="depth + 1"
    :aria-posinset="place"
    :aria-setsize="of"
    :aria-selected="at >= 0"
    :aria-expanded="folded === undefined ? undefined : !folded"
    :class="{ hidden: doc.hidden.has(id), lit: wiring.lit.has(id) }"
    :style="{ paddingLeft: 8 + depth * 14 + 'px' }"
    draggable="true"
    @click="$emit('press', $event)"
    @dblclick="name?.edit()"
  >
    <i v-if="item.label" class="label" :style="{ background: `var(--label${item.label})` }" />
    <button
      v-if="folded !== undefined"
      class="plain fold"
      tabindex="-1"
      :aria-label="folded ? 'Expand' : 'Collapse'"
      @click.stop="$emit('fold')"
      @dblclick.stop
    >
      {{ folded ? '▸' : '▾' }}
    </button>
    <span v-else class="fold" />
    <KindIcon :kind="item.kind" :class="{ rig: item.controls?.length }" />
    <EditableName ref="name" bare label="Item name" :name="item.name" @rename="(text) => set({ name: text })" />
    <span v-if="number" class="order figures">{{ number }}</span>
    <button
      v-if="item.notInOutput"
      class="plain out"
      tabindex="-1"
      aria-label="Excluded from output. Click to include."
      title="Excluded from output. Click to include."
      @click.stop="set({ notInOutput: false })"
    >
      <IconOut />
    </button>
    <button
      class="plain mark"
      :class="{ set: item.locked }"
      tabindex="-1"
      :aria-label="item.locked ? 'Unlock' : 'Lock'"
      @click.stop="set({ locked: !item.locked })"
    >
      <IconLock v-if="item.locked" /><IconUnlock v-else />
    </button>
    <button
      class="plain mark"
      :class="{ set: item.hidden }"
      tabindex="-1"
      :aria-label="item.hidden ? 'Show' : 'Hide'"
      @click.stop="set({ hidden: !item.hidden })"
    >
      <IconEyeOff v-if="item.hidden" /><IconEye v-else />
    </button>
  </div>
</template>

<style scoped>
.row {
  position: relative;
  display: flex;
  align-items: center;
  gap: 5px;
  height: var(--row);
  padding-right: 8px;
  cursor: default;
}
.row:hover {
  background: var(--sunk);
}
.row[aria-selected='true'] {
  background: var(--picked);
}
.row.lit {
  box-shadow: inset 3px 0 var(--verdigris);
  background: var(--verdigrisSoft);
}
.row.hidden {
  color: var(--ink2);
}
.fold {
  width: 16px;
  height: 24px;
  margin: 0 -2px;
  flex: none;
  font-size: 11px;
  color: var(--ink2);
}
.rig {
  color: var(--brassText);
}
.row > :deep(.name) {
  flex: 1;
}
.order {
  border: 1px solid var(--brass);
  border-radius: 9px;
  padding: 0 6px;
  font-size: 11px;
  color: var(--brassText);
}
.label {
  position: absolute;
  left: 0;
  top: 2px;
  bottom: 2px;
  width: 4px;
  border-radius: 0 2px 2px 0;
}
.out {
  display: grid;
  place-items: center;
  width: 24px;
  height: 24px;
  margin: 0 -3px;
  font-size: 14px;
  color: var(--ochre);
}
.mark {
  opacity: 0;
  font-size: 13px;
  color: var(--ink2);
  width: 24px;
  height: 24px;
  margin-left: -5px;
  display: grid;
  place-items: center;
  flex: none;
}
.row:hover .mark,
.mark.set,
.mark:focus-visible {
  opacity: 1;
}
</style>
