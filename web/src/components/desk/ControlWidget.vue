<script setup lang="ts">
import { NSelect, NSwitch } from 'naive-ui'
import { computed } from 'vue'
import { steady } from '@/composables/steady'
import type { Item, Ref, Spec, Value } from '@/core/types'
import { useDocument } from '@/stores/document'
import AngleDial from './AngleDial.vue'
import ColourField from '@/components/shared/ColourField.vue'
import FaderBar from './FaderBar.vue'
import PointPad from './PointPad.vue'
import ValueField from '@/components/shared/ValueField.vue'

/** The live widget of a control, and its value in figures. */
const props = defineProps<{ item: Item; spec: Spec; driven: boolean }>()
const doc = useDocument()

const target = computed<Ref>(() => ({ item: props.item.id, property: props.spec.key }))
const kind = computed(() => props.item.controls?.find((c) => c.id === props.spec.key)?.kind)
const held = computed<number[][]>((was) => steady(was, [doc.numbers(props.item.id, props.spec)]))
const numbers = computed(() => held.value[0] ?? [])

const preview = (value: Value, component?: string) => void doc.preview('set', { targets: [{ ...target.value, component }], value })
const commit = (value: Value, component?: string) => void doc.gesture('set', { targets: [{ ...target.value, component }], value })
</script>

<template>
  <div class="widget">
    <FaderBar
      v-if="kind === 'slider'"
      :spec="spec"
      :value="numbers[0] ?? 0"
      @preview="preview"
      @commit="commit"
      @cancel="doc.cancelPreview"
    />
    <AngleDial
      v-else-if="kind === 'angle'"
      :label="spec.name"
      :value="numbers[0] ?? 0"
      @preview="preview"
      @commit="commit"
      @cancel="doc.cancelPreview"
    />
    <ColourField v-else-if="kind === 'colour'" :label="spec.name" :value="numbers" @preview="preview" @commit="commit" />
    <PointPad v-else-if="kind === 'point'" :spec="spec" :value="numbers" @preview="preview" @commit="commit" @cancel="doc.cancelPreview" />
    <NSelect
      v-else-if="kind === 'menu'"
      size="tiny"
      :value="numbers[0]"
      :options="(spec.options ?? []).map((label, value) => ({ label, value }))"
      :aria-label="spec.name"
      @update:value="(n: number) => commit(n)"
    />
    <NSwitch v-else size="small" :value="numbers[0] === 1" :aria-label="spec.name" @update:value="(on: boolean) => commit(on ? 1 : 0)" />
  </div>
  <div class="value" :class="{ driven }">
    <template v-if="kind === 'slider' || kind === 'angle'">
      <ValueField
        :label="spec.name"
        :value="numbers[0] ?? 0"
        :step="spec.step"
        :min="spec.min"
        :max="spec.max"
        :driven="driven"
        @preview="preview"
        @commit="commit"
        @cancel="doc.cancelPreview"
      />
      <span class="unit quiet">{{ spec.unit }}</span>
    </template>
    <span v-else-if="kind === 'switch'" class="figures">{{ numbers[0] === 1 ? 'on' : 'off' }}</span>
    <template v-else-if="kind === 'point'">
      <ValueField
        v-for="(part, k) in spec.parts"
        :key="part"
        :label="`${spec.name} ${part}`"
        :value="numbers[k] ?? 0"
        :driven="driven"
        @preview="(x) => preview(x, part)"
        @commit="(x) => commit(x, part)"
        @cancel="doc.cancelPreview"
      />
    </template>
  </div>
</template>

<style scoped>
.widget {
  display: flex;
  align-items: center;
  min-width: 0;
}
.widget :deep(.swatch) {
  width: 74px;
  margin-left: 5px;
}
.value {
  display: flex;
  align-items: center;
  justify-content: flex-end;
  gap: 3px;
  min-width: 46px;
}
.driven {
  color: var(--verdigris);
}
.unit {
  font-size: 11px;
  min-width: 12px;
}
</style>
