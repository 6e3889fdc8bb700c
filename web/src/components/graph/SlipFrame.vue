<script setup lang="ts">
import { useVueFlow } from '@vue-flow/core'
import { computed } from 'vue'
import EditableName from '@/components/shared/EditableName.vue'
import type { FoldPort, Id } from '@/core/types'
import { useGraphs } from '@/stores/graphs'
import SlipMenu from './SlipMenu.vue'

/** A fold that is open: a frame around the slips that lie in it, with the names of its inputs and outputs. */
const props = defineProps<{ id: Id; selected?: boolean; ports: FoldPort[] }>()
const graphs = useGraphs()
const { findNode } = useVueFlow('sheet')

const slip = computed(() => graphs.slips.get(props.id))
const margin = { side: 24, top: 44, bottom: 20 }

/** The frame around all that lies in the fold, from where the fold stands. */
const box = computed(() => {
  const at = slip.value?.at ?? [0, 0]
  const inner = graphs.withInner([props.id]).filter((s) => s.id !== props.id)
  if (!inner.length) return { left: 0, top: 0, width: 220, height: 80 }
  const rects = inner.map((s) => {
    const size = findNode(s.id)?.dimensions
    return { l: s.at[0], t: s.at[1], r: s.at[0] + (size?.width || 180), b: s.at[1] + (size?.height || 90) }
  })
  const left = Math.min(...rects.map((r) => r.l)) - margin.side
  const top = Math.min(...rects.map((r) => r.t)) - margin.top
  return {
    left: left - at[0],
    top: top - at[1],
    width: Math.max(...rects.map((r) => r.r)) + margin.side - left,
    height: Math.max(...rects.map((r) => r.b)) + margin.bottom - top,
  }
})

function rename(port: FoldPort, name: string): void {
  const s = slip.value
  if (s) graphs.edit(s, { ports: props.ports.map((p) => (p === port ? { ...p, name } : p)) })
}
</script>

<template>
  <section
    v-if="slip"
    class="frame"
    :class="{ selected }"
    :style="{ left: box.left + 'px', top: box.top + 'px', width: box.width + 'px', height: box.height + 'px' }"
    :aria-label="`Open fold: ${slip.title}`"
    :data-slip="slip.title"
  >
    <h3>
      <EditableName label="Title of the fold" :name="slip.title || 'Fold'" @rename="(title) => graphs.edit(slip!, { title })" />
      <button class="plain act nodrag" @click="graphs.edit(slip!, { open: false })">Close</button>
      <SlipMenu :id="id" />
    </h3>
    <div class="ports nodrag">
      <span v-for="p in ports" :key="p.slip + p.key + p.out" :class="{ out: p.out }"
        ><i>{{ p.out ? 'gives' : 'takes' }}</i>
        <EditableName :label="p.out ? 'Name of the output' : 'Name of the input'" :name="p.name" @rename="(name) => rename(p, name)"
      /></span>
    </div>
  </section>
</template>

<style scoped>
.frame {
  position: absolute;
  border: 1px dashed var(--track);
  border-radius: 6px;
  background: color-mix(in oklab, var(--picked) 50%, transparent);
  padding: 4px 12px;
}
.frame.selected {
  border-color: var(--brass);
}
h3 {
  display: flex;
  align-items: center;
  gap: 8px;
  margin: 0;
  font: 600 13px var(--face-heading);
}
.act {
  color: var(--brassText);
  font-size: 12px;
}
.ports {
  display: flex;
  flex-wrap: wrap;
  gap: 0 10px;
  font-size: 11px;
  color: var(--ink2);
}
.ports span {
  display: inline-flex;
  gap: 4px;
}
.ports i {
  opacity: 0.8;
}
</style>
