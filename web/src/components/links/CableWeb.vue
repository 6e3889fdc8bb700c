<script setup lang="ts">
import { computed, onMounted, onBeforeUnmount, ref } from 'vue'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'
import { useWiring } from '@/stores/wiring'
import { useWorkspace } from '@/stores/workspace'

/**
 * The cables of a control, from its jack to every item that it drives, where that stands in the picture: whole while the
 * pointer is over its jack or the key is held, else their ends alone, of the control that is picked.
 */
const doc = useDocument()
const selection = useSelection()
const wiring = useWiring()
const workspace = useWorkspace()
const painted = ref(0)
const most = 3000

const paint = (): void => void painted.value++
onMounted(() => doc.painters.add(paint))
onBeforeUnmount(() => doc.painters.delete(paint))

const source = computed(() => wiring.jack ?? selection.control)
const whole = computed(() => wiring.jack !== null || workspace.cables)

const driven = computed(() => {
  const from = source.value
  if (!from || !workspace.marks || workspace.tab !== 'desk') return []
  return (doc.followers[`${from.item}/${from.property}`] ?? []).filter((id) => !doc.hidden.has(id)).slice(0, most)
})

const path = computed(() => {
  void painted.value
  const from = source.value
  if (!from || !driven.value.length) return ''
  const name = doc.spec(from.item, from.property)?.name
  const jack = document.querySelector(`[data-control="${CSS.escape(name ?? '')}"] .jack`)?.getBoundingClientRect()
  if (!jack) return ''
  const [x, y] = [jack.left + jack.width / 2, jack.top]
  return (workspace.viewport?.spots(driven.value) ?? [])
    .map((to) => {
      if (to && !whole.value) return `M${(to[0] - 4).toFixed(0)} ${to[1].toFixed(0)}a4 4 0 1 0 8 0a4 4 0 1 0 -8 0`
      return to ? `M${x} ${y}C${x} ${y - 60} ${to[0].toFixed(0)} ${(to[1] + 90).toFixed(0)} ${to[0].toFixed(0)} ${to[1].toFixed(0)}` : ''
    })
    .join('')
})
</script>

<template>
  <svg v-if="path" class="web" aria-hidden="true" data-testid="cables">
    <path class="shade" :d="path" />
    <path :d="path" />
  </svg>
</template>

<style scoped>
.web {
  position: fixed;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
  z-index: 20;
}
path {
  fill: none;
  stroke: var(--brass);
  stroke-width: 1;
  opacity: 0.75;
}
.shade {
  stroke: var(--card);
  stroke-width: 3;
  opacity: 0.35;
}
</style>
