<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed } from 'vue'
import { message, sentence } from '@/composables/notify'
import { useWiring, type Jack } from '@/stores/wiring'
import { useWorkspace } from '@/stores/workspace'
import { jackAt } from './jacks'

/** The cable in the hand, over everything. */
const wiring = useWiring()
const workspace = useWorkspace()

const jackUnder = (x: number, y: number): Jack | undefined =>
  window.document
    .elementsFromPoint(x, y)
    .map(jackAt)
    .find((jack) => jack)

/** An item of the tree or of the picture under the pointer. */
function itemAt(x: number, y: number): string | undefined {
  const row = window.document.elementFromPoint(x, y)?.closest<HTMLElement>('[data-item], [data-marked]')
  return row?.dataset.item ?? row?.dataset.marked ?? workspace.viewport?.under(x, y)
}

useEventListener(window, 'pointermove', (event) => {
  if (wiring.source) wiring.end = { x: event.clientX, y: event.clientY }
})

useEventListener(window, 'pointerup', (event) => {
  const from = wiring.source
  if (!from) return
  const source = from.refs[0]
  const formula = window.document.elementFromPoint(event.clientX, event.clientY)?.closest<HTMLElement>('[data-formula]')
  if (formula && source) {
    formula.dispatchEvent(new CustomEvent('reference', { detail: source }))
    return wiring.letGo()
  }
  const sheet = window.document.elementFromPoint(event.clientX, event.clientY)?.closest<HTMLElement>('[data-sheet]')
  if (sheet) {
    sheet.dispatchEvent(new CustomEvent('jack', { detail: { refs: from.refs, x: event.clientX, y: event.clientY } }))
    return wiring.letGo()
  }
  const target = jackUnder(event.clientX, event.clientY)
  const same = target && JSON.stringify(target.refs) === JSON.stringify(from.refs)
  if (same && Math.hypot(event.clientX - wiring.start.x, event.clientY - wiring.start.y) < 30) return wiring.letGo()
  const item = target ? undefined : itemAt(event.clientX, event.clientY)
  if (source && item && item !== source.item) wiring.choose(source, from.type, item)
  if (source && target) {
    const refusal = wiring.refusal(target)
    if (refusal) message.warning(sentence(refusal), { duration: 6000 })
    else void wiring.link(source, target.refs)
  }
  if (!event.shiftKey) wiring.letGo() // Shift keeps the cable in the hand for the next one
})
useEventListener(window, 'blur', () => wiring.letGo())

const cable = computed(() => {
  const { start, end } = wiring
  const sag = Math.min(160, 30 + Math.hypot(end.x - start.x, end.y - start.y) / 5)
  return `M${start.x} ${start.y}C${start.x + sag} ${start.y - sag / 2} ${end.x - sag} ${end.y + sag} ${end.x} ${end.y}`
})
</script>

<template>
  <svg v-if="wiring.source" class="layer" aria-hidden="true">
    <path class="shade" :d="cable" />
    <path class="cable" :d="cable" />
    <circle class="plug" :cx="wiring.end.x" :cy="wiring.end.y" r="4" />
  </svg>
  <span v-if="wiring.source" class="hidden-label" role="status">Connecting {{ wiring.source.name }}. Esc cancels.</span>
</template>

<style scoped>
.layer {
  position: fixed;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
  z-index: 50;
}
.cable {
  fill: none;
  stroke: var(--brass);
  stroke-width: 2;
}
.shade {
  fill: none;
  stroke: var(--card);
  stroke-width: 5;
  opacity: 0.7;
}
.plug {
  fill: var(--brass);
  stroke: var(--card);
  stroke-width: 1.5;
}
</style>
