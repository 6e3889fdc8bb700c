<script setup lang="ts">
import { computed } from 'vue'
import { useBox } from '@/stores/box'
import type { Ref } from '@/core/types'

/** Says that a control is bound to a box, and whether the fader there has to be moved to its value before it does anything. */
const props = defineProps<{ target: Ref }>()
const box = useBox()
const bound = computed(() => box.boundTo(props.target))
const here = computed(() => bound.value.some((b) => box.boxes.includes(b.box)))
const waits = computed(() => bound.value.some((b) => box.waits(b)))
const said = computed(
  () =>
    `Bound to ${bound.value.map((b) => `${b.box}, ${b.from.replace(/^1 /, '')}`).join('; ')}` +
    (!here.value ? '; the box is not there' : waits.value ? '; move it through the value to take over' : ''),
)
</script>

<template>
  <i v-if="bound.length" class="tag" :class="{ waits, away: !here }" :title="said" role="img" :aria-label="said" />
</template>

<style scoped>
.tag {
  flex: none;
  width: 6px;
  height: 12px;
  margin-left: 4px;
  border-radius: 2px;
  background: var(--brass);
}
.tag.waits {
  background: none;
  border: 1.5px solid var(--brass);
}
.tag.away {
  background: none;
  border: 1px dashed var(--ink2);
}
</style>
