<script setup lang="ts">
import { computed, onMounted, onBeforeUnmount, ref } from 'vue'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'
import { useWorkspace } from '@/stores/workspace'

/** The cables of the picked control: from its jack to every item that it drives, where that stands in the picture. */
const doc = useDocument()
const selection = useSelection()
const workspace = useWorkspace()
const painted = ref(0)
const most = 3000

const paint = (): void => void painted.value++
onMounted(() => doc.painters.add(paint))
onBeforeUnmount(() => doc.painters.delete(paint))

const driven = computed(() => {
  const from = selection.control
  if (!from || !workspace.cables || workspace.tab !== 'desk') return []
  return (doc.followers[`${from.item}/${from.property}`] ?? []).filter((id) => !doc.hidden.has(id)).slice(0, most)
})

const path = computed(() => {
  void painted.value
  const from = selection.control
  if (!from || !driven.value.length) return ''
  const name = doc.spec(from.item, from.property)?.name
  const jack = document.querySelector(`[data-control="${CSS.escape(name ?? '')}"] .jack`)?.getBoundingClientRect()
  if (!jack) return ''
  const [x, y] = [jack.left + jack.width / 2, jack.top]
  return driven.value
    .map((id) => {
      const to = workspace.viewport?.spot(id)
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
