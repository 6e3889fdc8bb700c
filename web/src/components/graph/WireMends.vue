<script setup lang="ts">
import { nextTick, useTemplateRef, watch } from 'vue'
import type { Mend } from '@/core/types'
import type { Refusal } from './sheet/hand'

/** Why a value cannot be led to an input, or is hardly meant to be, and what can be put between. */
const props = defineProps<{ refusal: Refusal; left: number; top: number }>()
const emit = defineEmits<{ mend: [m: Mend]; close: [] }>()
const box = useTemplateRef<HTMLDivElement>('box')
watch(
  () => props.refusal,
  async () => {
    await nextTick()
    box.value?.querySelector('button')?.focus()
  },
  { immediate: true },
)
</script>

<template>
  <div
    ref="box"
    class="mends"
    role="alertdialog"
    aria-label="The cable does not fit"
    :style="{ left: left + 'px', top: top + 'px' }"
    @keydown.esc.stop="emit('close')"
    @keydown.stop
  >
    <p>{{ refusal.fit.refused || refusal.fit.doubt }}</p>
    <p v-if="refusal.fit.mends?.length" class="line">
      put between
      <button v-for="m in refusal.fit.mends" :key="m.text" class="plain act" @click="emit('mend', m)">{{ m.label }}</button>
    </p>
    <button class="plain close" @click="emit('close')">{{ refusal.fit.mends?.length ? 'leave it' : 'good' }}</button>
  </div>
</template>

<style scoped>
.mends {
  position: absolute;
  z-index: 30;
  width: 260px;
  padding: 8px 12px;
  border: 1px solid var(--oxblood);
  border-radius: 4px;
  background: var(--card);
  color: var(--ink);
  font-size: 12px;
  box-shadow: 2px 4px 12px rgb(0 0 0 / 20%);
}
p {
  margin: 0 0 6px;
}
.line {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  color: var(--ink2);
}
.act {
  color: var(--brassText);
}
.close {
  color: var(--ink2);
}
</style>
