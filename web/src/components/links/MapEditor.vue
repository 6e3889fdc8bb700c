<script setup lang="ts">
import { computed } from 'vue'
import { core } from '@/core/client'
import type { Id, Link, Spec } from '@/core/types'
import { useDocument } from '@/stores/document'
import StopsEditor from './StopsEditor.vue'

/** A map: its response, and its stops. */
const props = defineProps<{ link: Link; property: Spec; items: Id[]; spread?: Id }>()
const emit = defineEmits<{ preview: [what: Partial<Link>]; change: [what: Partial<Link>] }>()
const doc = useDocument()

const source = computed(() => doc.spec(props.link.source.item, props.link.source.property))
const input = computed(() => {
  const s = source.value
  const list = s ? doc.numbers(props.link.source.item, s) : []
  return list[Math.max(0, (s?.parts ?? []).indexOf(props.link.source.component ?? ''))] ?? 0
})
const type = computed(() => {
  if (props.link.component) return 'number'
  if (['colour', 'text'].includes(props.property.type)) return props.property.type
  return (props.property.parts?.length ?? 1) > 1 ? 'point' : 'number'
})
const response = async (from: number, to: number, steps: number): Promise<number[]> => {
  const ref = { item: props.items[0] ?? '', property: props.property.key }
  return (await core.ask('response', { ref, link: props.link.id, from, to, steps })).result ?? []
}
const mark = (which: string): void =>
  void doc.gesture('mark', {
    targets: props.items.map((item) => ({ item, property: props.property.key, component: props.link.component })),
    which,
  })
</script>

<template>
  <StopsEditor
    :stops="link.stops ?? []"
    :beyond="link.beyond ?? ''"
    :type="type"
    :jumps="property.jumps"
    :input="input"
    :reach="[source?.softMin ?? 0, source?.softMax ?? 1]"
    :room="[property.softMin, property.softMax]"
    :response="response"
    :unmarked="!!spread"
    @preview="(what) => emit('preview', what)"
    @change="(what) => emit('change', what)"
    @mark="mark"
  />
</template>
