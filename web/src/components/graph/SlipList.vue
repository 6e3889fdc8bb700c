<script setup lang="ts">
import { computed, shallowRef } from 'vue'
import { css } from '@/composables/format'
import { useGraphs } from '@/stores/graphs'
import type { Id, ListShown, Value } from '@/core/types'
import { figure } from './sheet/figure'
import { useHeard } from './sheet/heard'

/** Whose values a slip gathers, with what the first of them give now. */
const props = defineProps<{ slip: Id; list: ListShown }>()
const graphs = useGraphs()
const values = shallowRef<Value[]>([])
useHeard(
  () => props.slip,
  () => props.list,
  () => (values.value = graphs.gathered(props.slip)),
)
const rows = computed(() => props.list.names.map((name, k) => ({ name, value: values.value[k] ?? null })))
const colour = (v: Value): string | undefined => (Array.isArray(v) && v.length === 4 ? css(v) : undefined)
const said = (value: Value): string => figure({ key: '', tag: '', value })
</script>

<template>
  <ul class="figures" :aria-label="list.of">
    <li v-for="(r, k) in rows" :key="k">
      <span class="who">{{ r.name }}</span>
      <span v-if="colour(r.value)" class="swatch" role="img" :aria-label="said(r.value)" :style="{ background: colour(r.value) }" />
      <span v-else>{{ said(r.value) }}</span>
    </li>
    <li v-if="list.count > rows.length" class="who">and {{ list.count - rows.length }} more</li>
  </ul>
</template>

<style scoped>
ul {
  margin: 2px 0;
  padding: 0;
  list-style: none;
  font-size: 11px;
}
li {
  display: flex;
  gap: 8px;
  align-items: center;
  justify-content: space-between;
  line-height: 16px;
}
.who {
  overflow: hidden;
  color: var(--ink2);
  text-overflow: ellipsis;
  white-space: nowrap;
}
.swatch {
  width: 28px;
  height: 11px;
  border: 1px solid var(--track);
  border-radius: 2px;
}
</style>
