<script setup lang="ts">
import { NInput, NSwitch } from 'naive-ui'
import { computed } from 'vue'
import { useShared } from '@/composables/shared'
import { useWords } from '@/composables/words'
import type { Id, Ref, Spec, Value } from '@/core/types'
import { useDocument } from '@/stores/document'
import AngleDial from './AngleDial.vue'
import ColourField from '@/components/shared/ColourField.vue'
import FaderBar from './FaderBar.vue'
import PointPad from './PointPad.vue'
import ValueField from '@/components/shared/ValueField.vue'
import ChoiceField from '@/components/shared/ChoiceField.vue'

/** The live widget of a control, and its value in figures. */
const props = defineProps<{ item: Id; spec: Spec; driven: boolean; tall?: boolean }>()
const doc = useDocument()

const target = computed<Ref>(() => ({ item: props.item, property: props.spec.key }))
const control = computed(() => doc.controlOf(props.item, props.spec.key))
const kind = computed(() => control.value?.kind)
const { numbers } = useShared(
  () => [props.item],
  () => props.spec,
)

const { words, settle } = useWords(
  () => numbers.value[0],
  (text) => commit(text),
)

const preview = (value: Value, component?: string) => void doc.preview('set', { targets: [{ ...target.value, component }], value })
const commit = (value: Value, component?: string) => void doc.gesture('set', { targets: [{ ...target.value, component }], value })
</script>

<template>
  <div class="widget">
    <FaderBar
      v-if="kind === 'fader'"
      :spec="spec"
      :value="numbers[0] ?? 0"
      :stops="control?.poses"
      @stop="(how, s, at) => void doc[how]('set stop', { item, control: spec.key, stop: s.id, at })"
      @preview="preview"
      @commit="commit"
      @cancel="doc.cancelPreview"
    />
    <AngleDial
      v-else-if="kind === 'dial'"
      :tall="tall"
      :label="spec.name"
      :value="numbers[0] ?? 0"
      @preview="preview"
      @commit="commit"
      @cancel="doc.cancelPreview"
    />
    <ColourField v-else-if="kind === 'colour'" :label="spec.name" :value="numbers" @preview="preview" @commit="commit" />
    <PointPad v-else-if="kind === 'point'" :spec="spec" :value="numbers" @preview="preview" @commit="commit" @cancel="doc.cancelPreview" />
    <ChoiceField
      v-else-if="kind === 'choice'"
      size="tiny"
      :value="numbers[0]"
      :options="(spec.options ?? []).map((label, value) => ({ label, value }))"
      :label="spec.name"
      @update:value="(n: number) => commit(n)"
    />
    <NInput
      v-else-if="kind === 'text'"
      v-model:value="words"
      class="words"
      size="tiny"
      type="textarea"
      :autosize="{ minRows: 1, maxRows: tall ? 3 : 1 }"
      :input-props="{ 'aria-label': spec.name }"
      :maxlength="5000"
      @update:value="(text: string) => preview(text)"
      @blur="settle"
      @keydown.stop
    />
    <NSwitch v-else size="small" :value="numbers[0] === 1" :aria-label="spec.name" @update:value="(on: boolean) => commit(on ? 1 : 0)" />
  </div>
  <div class="value" :class="{ driven }">
    <template v-if="kind === 'fader' || kind === 'dial'">
      <ValueField
        :label="spec.name"
        :value="numbers[0] ?? 0"
        :step="spec.step"
        :min="spec.min"
        :max="spec.max"
        :unit="spec.unit"
        :beyond="(numbers[0] ?? 0) < spec.softMin || (numbers[0] ?? 0) > spec.softMax"
        :driven="driven"
        @preview="preview"
        @commit="commit"
        @cancel="doc.cancelPreview"
      />
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
  width: 100%;
  height: 20px;
}
.words {
  width: 100%;
}
.value {
  display: flex;
  align-items: center;
  justify-content: flex-end;
  gap: 3px;
  min-width: 0;
}
.value:has(.value + .value) {
  min-width: 0;
}
.driven {
  color: var(--verdigris);
}
</style>
