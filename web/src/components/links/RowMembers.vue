<script setup lang="ts">
import { useVirtualList } from '@vueuse/core'
import { computed, nextTick, ref } from 'vue'
import type { Id } from '@/core/types'
import { useDocument } from '@/stores/document'

/** The members of a row in the order in which they are counted, which dragging changes; by keyboard, Alt with the arrows. */
const props = defineProps<{ members: Id[] }>()
const emit = defineEmits<{ order: [members: Id[]] }>()
const doc = useDocument()

const open = ref(false)
const dragged = ref(-1)
const over = ref(-1)
const height = 22
const { list, containerProps, wrapperProps } = useVirtualList(
  computed(() => props.members),
  { itemHeight: height, overscan: 4 },
)

function put(from: number, to: number): void {
  const moved = props.members[from]
  if (moved === undefined || to < 0 || to >= props.members.length || from === to) return
  const rest = props.members.filter((_, k) => k !== from)
  emit('order', [...rest.slice(0, to), moved, ...rest.slice(to)])
}

async function key(event: KeyboardEvent, at: number): Promise<void> {
  const by = { ArrowUp: -1, ArrowDown: 1 }[event.key]
  if (!by) return
  event.preventDefault()
  event.stopPropagation()
  const list = (event.currentTarget as HTMLElement).parentElement
  if (event.altKey) put(at, at + by)
  await nextTick()
  const next = list?.querySelector<HTMLElement>(`[data-place="${at + by}"]`)
  next?.focus()
}

function drop(to: number): void {
  put(dragged.value, to)
  dragged.value = over.value = -1
}
</script>

<template>
  <div class="members">
    <button class="plain fold" :aria-expanded="open" @click="open = !open">{{ open ? '▾' : '▸' }} Order</button>
    <div v-if="open" v-bind="containerProps" class="list" :style="{ height: Math.min(6, members.length) * height + 'px' }">
      <ol v-bind="wrapperProps" aria-label="Members in the order in which they are counted; Alt with the arrows moves one">
        <li
          v-for="{ data: id, index: k } in list"
          :key="id"
          draggable="true"
          tabindex="0"
          :data-place="k"
          :class="{ over: over === k }"
          @dragstart="dragged = k"
          @dragover.prevent="over = k"
          @dragend="dragged = over = -1"
          @drop.prevent="drop(k)"
          @keydown="key($event, k)"
        >
          <span class="figures">{{ k + 1 }}</span>{{ doc.items.get(id)?.name }}
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
  height: 22px;
  align-items: center;
  padding: 0 8px;
  font-size: 12px;
  cursor: grab;
}
li.over {
  box-shadow: inset 0 2px var(--brass);
}
.figures {
  min-width: 24px;
  text-align: right;
  color: var(--brassText);
}
</style>
