<script setup lang="ts">
import { useVueFlow } from '@vue-flow/core'
import { computed } from 'vue'
import type { Id } from '@/core/types'

/** The ground under slips that are worked out at another time than now. */
const props = defineProps<{ elsewhen: Set<Id> }>()
const { findNode } = useVueFlow('sheet')
const margin = 18

const grounds = computed(() =>
  [...props.elsewhen].flatMap((id) => {
    const node = findNode(id)
    if (!node) return []
    return [
      {
        id,
        x: node.position.x - margin,
        y: node.position.y - margin,
        width: (node.dimensions.width || 180) + 2 * margin,
        height: (node.dimensions.height || 90) + 2 * margin,
      },
    ]
  }),
)
/** Where it is said what the ground means: at the topmost of them. */
const first = computed(() => [...grounds.value].sort((a, b) => a.y - b.y)[0])
</script>

<template>
  <div class="grounds" aria-hidden="true">
    <div
      v-for="g in grounds"
      :key="g.id"
      class="ground"
      :style="{ left: g.x + 'px', top: g.y + 'px', width: g.width + 'px', height: g.height + 'px' }"
    />
    <span v-if="first" class="said" :style="{ left: first.x + 8 + 'px', top: first.y - 16 + 'px' }">at another time</span>
  </div>
</template>

<style scoped>
.grounds {
  position: absolute;
  z-index: -1;
}
.ground {
  position: absolute;
  border-radius: 14px;
  background: color-mix(in oklab, var(--verdigris) 16%, var(--ground));
}
.said {
  position: absolute;
  color: var(--verdigris);
  font-size: 11px;
  white-space: nowrap;
}
</style>
