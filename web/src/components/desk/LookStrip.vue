<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, nextTick, useTemplateRef, watch } from 'vue'
import type { Id } from '@/core/types'
import { useLooks } from '@/stores/looks'
import EditableName from '@/components/shared/EditableName.vue'
import MenuList from '@/components/shared/MenuList.vue'

/** The looks of a drawer, or of all: pressed, one is applied; held, it is shown for as long. */
const props = defineProps<{ of: Id; label: string }>()
const looks = useLooks()
const list = computed(() => looks.of(props.of))
const fields = useTemplateRef<InstanceType<typeof EditableName>[]>('fields')

watch(
  () => looks.naming,
  async (id) => {
    if (!id || !list.value.some((l) => l.id === id)) return
    await nextTick()
    await fields.value?.[0]?.edit()
  },
  { flush: 'post', immediate: true },
)
const named = (id: Id, name: string): void => void looks.rename(id, name)

const brief = 300 // ms; what is let go later was only looked at
let since = 0
function press(id: Id): void {
  since = performance.now()
  looks.hold(id)
}
function release(): void {
  const id = looks.held
  if (!id || !list.value.some((l) => l.id === id)) return
  looks.letGo()
  if (performance.now() - since < brief) void looks.apply(id)
}
function key(event: KeyboardEvent, id: Id): void {
  if (event.key === 'Escape' && looks.held) looks.letGo()
  else if (event.key === 'Enter') void looks.apply(id)
  else if (event.key === 'F2') looks.naming = id
  else if (event.key === ' ' && !event.repeat) press(id)
  else if (event.key !== ' ') return
  event.preventDefault()
  event.stopPropagation()
}
useEventListener(window, 'pointerup', release)
useEventListener(window, 'pointercancel', looks.letGo)
useEventListener(window, 'blur', looks.letGo)

const menu = computed(() => [
  { key: 'mix', label: 'Mix them with a fader', disabled: list.value.length < 2 },
  { type: 'divider', key: 'd' },
  ...list.value.map((l) => ({
    key: l.id,
    label: l.name,
    children: [
      { key: `name ${l.id}`, label: 'Rename' },
      { key: `again ${l.id}`, label: 'Keep what is shown now instead' },
      { key: `remove ${l.id}`, label: 'Delete' },
    ],
  })),
])
function run(chosen: string): void {
  const [what = '', id = ''] = chosen.split(' ')
  const acts: Record<string, () => void> = {
    mix: () => void looks.mix(props.of),
    name: () => (looks.naming = id),
    again: () => void looks.again(id),
    remove: () => void looks.remove(id),
  }
  acts[what]?.()
}
</script>

<template>
  <div class="strip" role="group" :aria-label="label">
    <span class="quiet" aria-hidden="true">{{ of ? 'Looks' : 'Looks of all' }}</span>
    <button class="plain step" aria-label="Look before" title="The look before" @click="looks.step(of, -1)">‹</button>
    <button class="plain step" aria-label="Next look" title="The next look" @click="looks.step(of, 1)">›</button>
    <template v-for="l in list" :key="l.id">
      <span v-if="looks.naming === l.id" class="look naming" @focusout="looks.naming = undefined">
        <EditableName ref="fields" bare label="Name of the look" :name="l.name" @rename="named(l.id, $event)" />
      </span>
      <button
        v-else
        class="plain look"
        :class="{ held: looks.held === l.id }"
        :aria-pressed="looks.shown.includes(l.id)"
        :title="`${l.name} · press to apply, hold to compare`"
        @pointerdown.left="press(l.id)"
        @keydown="key($event, l.id)"
        @keyup.space.prevent.stop="release"
        @click.prevent
        @blur="looks.letGo"
      >
        {{ l.name }}
      </button>
    </template>
    <button class="plain step" :aria-label="`Keep another of ${label}`" title="Keep another look" @click="looks.keep(of)">+</button>
    <MenuList trigger="click" size="small" :options="menu" placement="bottom-end" @select="run">
      <button class="plain step" :aria-label="`Actions for ${label}`">⋯</button>
    </MenuList>
  </div>
</template>

<style scoped>
.strip {
  grid-column: 1;
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 2px 4px;
  min-height: 28px;
  padding: 1px 8px 1px 14px;
  border-bottom: 1px solid var(--line);
  border-right: 1px solid var(--line);
  font-size: 12px;
}
.quiet {
  margin-right: 4px;
}
.step {
  width: 24px;
  height: 24px;
  border-radius: 3px;
}
.step:hover,
.look:hover {
  background: var(--picked);
}
.look {
  max-width: 160px;
  height: 24px;
  padding: 0 8px;
  border-radius: 3px;
  border-bottom: 2px solid transparent;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  touch-action: none;
}
.look[aria-pressed='true'] {
  border-bottom-color: var(--brass);
  font-weight: 600;
}
.look.held {
  background: var(--picked);
  color: var(--brassText);
}
.naming {
  padding: 0;
  overflow: visible;
}
</style>
