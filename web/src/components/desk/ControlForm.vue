<script setup lang="ts">
import { NButton, NCheckbox, NDynamicInput, NForm, NFormItem, NInput, NInputNumber, NRadioButton, NRadioGroup, NSwitch } from 'naive-ui'
import { computed, useTemplateRef } from 'vue'
import { newNull, posesKind, units, useControlForm } from '@/composables/controlForm'
import ColourField from '@/components/shared/ColourField.vue'
import ModalCard from '@/components/shared/ModalCard.vue'
import ChoiceField from '@/components/shared/ChoiceField.vue'

/** The form of a control: for a new one, or for those that are there. */
const naming = useTemplateRef<InstanceType<typeof NInput>>('naming')
// Once the dialog has taken the focus, the name gets it.
const { form, wrong, shown, first, edited, alike, kindNames, ranged, owners, driven, close, finish } = useControlForm(
  () => void setTimeout(() => naming.value?.focus()),
)
const title = computed(() =>
  edited.value.length > 1 ? `${edited.value.length} controls` : first.value ? `Control ${first.value.name}` : 'New control',
)
const point = computed(() => (Array.isArray(form.begins) ? form.begins : []))
const setPoint = (k: number, x: number | null): void => {
  form.begins = point.value.map((old, i) => (i === k ? (x ?? 0) : old))
}
</script>

<template>
  <ModalCard :show="shown" :title="title" :width="640" @close="close">
    <NForm label-placement="left" label-width="116" size="small" :show-feedback="false" @submit.prevent="finish">
      <NFormItem v-if="!first" label="Add to"
        ><ChoiceField v-model:value="form.owner" filterable :options="owners" label="Add to"
      /></NFormItem>
      <NFormItem v-if="!first && form.owner === newNull" label="Null's name"
        ><NInput v-model:value="form.ownerName" :input-props="{ 'aria-label': 'Name of the null' }"
      /></NFormItem>
      <NFormItem v-if="!first" label="Kind">
        <NRadioGroup v-model:value="form.kind" name="kind"
          ><NRadioButton v-for="k in kindNames" :key="k.value" :value="k.value" :label="k.label"
        /></NRadioGroup>
      </NFormItem>
      <NFormItem v-if="edited.length < 2" label="Name"
        ><NInput
          ref="naming"
          v-model:value="form.name"
          maxlength="200"
          :placeholder="first ? '' : 'e.g. Wind strength'"
          :input-props="{ 'aria-label': 'Name of the control' }"
      /></NFormItem>
      <NFormItem v-if="!first && driven" label="Drives"
        ><NCheckbox v-model:checked="form.drives">{{ driven }}</NCheckbox></NFormItem
      >
      <template v-if="alike">
        <NFormItem v-if="form.kind === 'fader'" label="Unit"
          ><ChoiceField v-model:value="form.unit" :options="units" label="Unit"
        /></NFormItem>
        <NFormItem v-if="ranged" label="Range">
          <NInputNumber v-model:value="form.from" placeholder="0" :show-button="false" :input-props="{ 'aria-label': 'Range from' }" /><span
            class="to"
            >to</span
          ><NInputNumber v-model:value="form.to" placeholder="100" :show-button="false" :input-props="{ 'aria-label': 'Range to' }" />
        </NFormItem>
        <NFormItem v-if="ranged" label="Hard limits">
          <NInputNumber
            v-model:value="form.min"
            placeholder="None"
            :show-button="false"
            :input-props="{ 'aria-label': 'Lower limit' }"
          /><span class="to">to</span
          ><NInputNumber v-model:value="form.max" placeholder="None" :show-button="false" :input-props="{ 'aria-label': 'Upper limit' }" />
        </NFormItem>
        <NFormItem v-if="ranged" label="Step"
          ><NInputNumber
            v-model:value="form.step"
            :min="0"
            placeholder="Automatic"
            :show-button="false"
            :input-props="{ 'aria-label': 'Step' }"
        /></NFormItem>
        <NFormItem v-if="form.kind === posesKind" label="Stops"
          ><NDynamicInput v-model:value="form.stops" :min="2" :max="100" placeholder="Name of the stop" aria-label="Stops"
        /></NFormItem>
        <NFormItem v-if="form.kind === 'choice'" label="Options"
          ><NDynamicInput v-model:value="form.entries" :min="1" :max="100" placeholder="Option name" aria-label="Options"
        /></NFormItem>
        <NFormItem label="Default">
          <NInputNumber
            v-if="typeof form.begins === 'number' && ranged"
            v-model:value="form.begins"
            placeholder="0"
            :show-button="false"
            :input-props="{ 'aria-label': 'Default' }"
          />
          <NSwitch
            v-else-if="form.kind === 'switch'"
            :value="form.begins === 1"
            aria-label="Default"
            @update:value="(on: boolean) => (form.begins = on ? 1 : 0)"
          />
          <ChoiceField
            v-else-if="form.kind === 'choice'"
            :value="Number(form.begins)"
            :options="form.entries.map((label, value) => ({ label, value }))"
            label="Default"
            @update:value="(n: number) => (form.begins = n)"
          />
          <NInput
            v-else-if="form.kind === 'text'"
            :value="String(form.begins)"
            type="textarea"
            :autosize="{ minRows: 1, maxRows: 4 }"
            :input-props="{ 'aria-label': 'Default' }"
            @update:value="(text: string) => (form.begins = text)"
          />
          <ColourField
            v-else-if="form.kind === 'colour'"
            label="Default"
            :value="point"
            @preview="(c) => (form.begins = c)"
            @commit="(c) => (form.begins = c)"
          />
          <template v-else>
            <NInputNumber
              v-for="(x, k) in point"
              :key="k"
              :value="x"
              placeholder="0"
              :show-button="false"
              :input-props="{ 'aria-label': `Default ${'xyz'[k]}` }"
              @update:value="(v: number | null) => setPoint(k, v)"
            />
          </template>
        </NFormItem>
        <NFormItem v-if="form.kind === 'fader'" label="Whole numbers"
          ><NSwitch v-model:value="form.whole" aria-label="Whole numbers only"
        /></NFormItem>
        <NFormItem v-if="form.kind === 'point'" label="3D (x, y, z)"
          ><NSwitch v-model:value="form.depth" aria-label="3D: x, y and z"
        /></NFormItem>
      </template>
      <NFormItem label="Note"
        ><NInput
          v-model:value="form.note"
          type="textarea"
          placeholder="Shown when you hover the name (optional)"
          :autosize="{ minRows: 1, maxRows: 4 }"
          maxlength="2000"
          :input-props="{ 'aria-label': 'Note' }"
      /></NFormItem>
      <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
      <div class="end">
        <NButton size="small" @click="close">Cancel</NButton
        ><NButton size="small" type="primary" attr-type="submit">{{ first ? 'Save' : 'Add' }}</NButton>
      </div>
    </NForm>
  </ModalCard>
</template>

<style scoped>
.n-form-item {
  margin-bottom: 10px;
}
.to {
  padding: 0 8px;
  color: var(--ink2);
}
.end {
  display: flex;
  justify-content: flex-end;
  gap: 8px;
}
.wrong {
  color: var(--oxblood);
  margin: 0 0 8px;
}
</style>
