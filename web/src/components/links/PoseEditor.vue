<script setup lang="ts">
import { computed } from 'vue'
import { usePosing } from '@/composables/posing'
import type { Id, Link, Spec, Value } from '@/core/types'
import { nowhere } from '@/composables/roster'
import { useDocument } from '@/stores/document'
import { useWorkspace } from '@/stores/workspace'
import AnyValue from '@/components/shared/AnyValue.vue'

/** A link of poses: what it holds at each stop of its control. */
const props = defineProps<{ link: Link; property: Spec; items: Id[]; spread?: Id }>()
defineEmits<{ preview: [what: Partial<Link>]; change: [what: Partial<Link>] }>() // it sends what it changes by itself
const doc = useDocument()
const workspace = useWorkspace()
const posing = usePosing()

const source = computed(() => ({ item: props.link.source.item, control: props.link.source.property }))
const control = computed(() => posing.controlOf(source.value.item, source.value.control))
const at = computed(() =>
  props.spread
    ? { target: nowhere, spread: props.spread }
    : { target: { item: props.items[0] ?? '', property: props.property.key }, link: props.link.id },
)
function hold(how: 'preview' | 'gesture', stop: Id, value: Value): void {
  void doc[how]('hold at stop', { ...source.value, stop, ...at.value, value })
}
const held = (stop: Id) => props.link.held?.find((h) => h.stop === stop)?.value ?? null
</script>

<template>
  <div v-if="control" class="stops">
    <div v-for="s in control.poses ?? []" :key="s.id" class="stop">
      <span>{{ s.name }}</span>
      <AnyValue
        v-if="held(s.id) !== null"
        :spec="property"
        :component="link.component"
        :value="held(s.id)"
        :label="`At ${s.name}`"
        @preview="(value) => hold('preview', s.id, value)"
        @commit="(value) => hold('gesture', s.id, value)"
        @cancel="doc.cancelPreview"
      />
      <span v-else class="quiet">between its neighbours</span>
      <button class="plain act" @click="posing.begin({ ...source, stop: s.id })">Pose</button>
    </div>
    <button class="plain act" @click="workspace.posesOf = source">Everything {{ control.name }} moves</button>
  </div>
</template>

<style scoped>
.stop {
  display: flex;
  align-items: center;
  gap: 6px;
  min-height: 24px;
}
.stop > :first-child {
  flex: 1;
}
.act {
  color: var(--brassText);
  font-size: 12px;
  min-height: 24px;
}
</style>
