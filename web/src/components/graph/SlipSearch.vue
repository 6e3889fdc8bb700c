<script setup lang="ts">
import { nextTick, ref, useTemplateRef, watch } from 'vue'
import { hand } from '@/composables/hand'
import { useChoosing } from '@/composables/choosing'
import type { Id, Ref } from '@/core/types'
import { useFinding, type Found, type Made } from './sheet/finding'
import type { OfferedPort } from './sheet/offering'

/** Finds what to put on the sheet by part of its name: functions, operators, words, controls, properties; arithmetic as it is typed. */
const props = defineProps<{
  at: { x: number; y: number }
  /** What the cable in the hand wants: something that takes a value, or something that gives one. */
  wanted?: 'takes' | 'gives'
  begun?: string // what is typed already
  ports: OfferedPort[] // of slips that are there, to which the cable in the hand can be led
  parts: string[] // of its value, which could be led on instead
}>()
const emit = defineEmits<{ choose: [slip: Made, drive?: Ref[]]; find: [id: Id]; lead: [to: OfferedPort]; part: [key: string]; close: [] }>()
const typed = ref(props.begun ?? '')
const field = useTemplateRef<HTMLInputElement>('field')
const list = useTemplateRef<HTMLUListElement>('list')
const { found, ready } = useFinding(props, typed)

const choose = (f: Found | undefined): void => {
  if (f?.port) emit('lead', f.port)
  else if (f?.part) {
    typed.value = ''
    emit('part', f.part)
  } else if (f?.there) emit('find', f.there)
  else if (f?.slip) emit('choose', f.slip, f.drive)
}
const {
  at: chosen,
  keys: walk,
  parts: roles,
} = useChoosing(
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

async function keys(event: KeyboardEvent): Promise<void> {
  event.stopPropagation()
  if (event.key === 'Enter') {
    event.preventDefault()
    hand.byKeyboard = true // and goes on by it
    await ready // what is sought may be among it
  }
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
      v-bind="roles.field.value"
      @keydown="keys"
      @blur="emit('close')"
    />
    <ul v-show="found.length" :id="roles.list" ref="list" role="listbox" tabindex="-1" aria-label="What can be put on the sheet">
      <li v-for="(f, i) in found" :key="f.name + i" v-bind="roles.entry(i)" :class="{ at: i === chosen }" @pointerdown.prevent="choose(f)">
        <b>{{ f.name }}</b> <span>{{ f.help }}</span>
      </li>
    </ul>
    <p v-if="!found.length" class="fine" role="status">Nothing is called that.</p>
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
  max-height: min(190px, 40vh);
  overflow: auto;
  list-style: none;
}
.at,
li:hover {
  background: var(--picked);
}
li {
  min-height: 25px;
  padding: 3px 6px;
  cursor: pointer;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
li b {
  font-weight: 500;
}
.fine {
  margin: 6px;
}
li span,
.fine {
  color: var(--ink2);
  font-size: 12px;
}
</style>
