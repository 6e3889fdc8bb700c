<script setup lang="ts">
import { Handle, Position } from '@vue-flow/core'
import { computed, inject } from 'vue'
import type { Id, SlipOutput } from '@/core/types'
import PortFigure from './PortFigure.vue'
import { holding } from './sheet/hand'

/** An input or output of a slip: its tag, its name, and what comes or goes there; an input without a wire has a field. */
const props = defineProps<{
  slip: Id
  port: string
  handle: string
  name: string
  of: string // the title of the slip
  coming?: SlipOutput
  from?: { slip: Id; out: string } // the output whose value is shown
  field?: string
  out?: boolean
}>()
const emit = defineEmits<{ fill: [text: string] }>()
const hand = inject(holding)
/** What would become of the value that is held. */
const fit = computed(() => (props.out ? undefined : hand?.fits.value.get(`${props.slip}/${props.port}`)))
</script>

<template>
  <div class="port" :class="out ? 'out' : 'in'">
    <Handle
      v-if="!out"
      :id="handle"
      type="target"
      :position="Position.Left"
      class="tag figures"
      :class="{ refused: fit?.refused, doubt: fit?.doubt }"
      :title="fit?.refused || fit?.doubt || undefined"
      >{{ coming?.tag || '·' }}</Handle
    >
    <span class="name" :title="name">{{ name }}</span>
    <PortFigure v-if="from" :slip="from.slip" :out="from.out" class="value" />
    <input
      v-else-if="field !== undefined"
      class="figures nodrag"
      :value="field"
      :aria-label="`${name || 'input ' + port} of ${of}`"
      placeholder="–"
      @keydown.stop
      @change="(e) => emit('fill', (e.target as HTMLInputElement).value)"
    />
    <Handle v-if="out" :id="handle" type="source" :position="Position.Right" class="tag figures">{{ coming?.tag || '·' }}</Handle>
  </div>
</template>

<style scoped>
.port {
  position: relative;
  display: flex;
  align-items: center;
  gap: 8px;
  height: 20px;
}
.port.out {
  justify-content: flex-end;
}
.name {
  overflow: hidden;
  color: var(--ink2);
  text-overflow: ellipsis;
  white-space: nowrap;
}
.in .value,
.in input {
  margin-left: auto;
}
.value {
  flex: none;
  max-width: 120px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
input {
  flex: none;
  width: 64px;
  padding: 1px 4px;
  border: 1px solid var(--line);
  border-radius: 2px;
  background: var(--sunk);
  color: var(--ink);
  font-size: 11px;
}
.tag {
  width: auto;
  min-width: 20px;
  height: 16px;
  padding: 0 3px;
  display: grid;
  place-items: center;
  font-size: 12px;
  line-height: 1;
  color: var(--brassText);
  background: var(--card);
  border: 1px solid var(--brass);
  border-radius: 3px;
}
.tag::after {
  content: '';
  position: absolute;
  inset: -5px -6px; /* easier to hit than it looks */
}
/* What is long stands further out, and covers no name. */
.in .tag {
  left: auto;
  right: calc(100% + 4px);
  transform: translateY(-50%);
}
.out .tag {
  left: calc(100% + 4px);
  right: auto;
  transform: translateY(-50%);
}
.tag.doubt {
  border-style: dashed;
}
.tag.refused {
  border-color: var(--line);
  color: var(--ink2);
  opacity: 0.5;
}
</style>
