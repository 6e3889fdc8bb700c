<script setup lang="ts">
import {
  NButton,
  NDynamicInput,
  NForm,
  NFormItem,
  NInput,
  NInputNumber,
  NModal,
  NRadioButton,
  NRadioGroup,
  NSelect,
  NSwitch,
} from 'naive-ui'
import { computed, nextTick, reactive, ref, useTemplateRef, watch } from 'vue'
import type { Control, Unit, Widget } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'
import { useWorkspace } from '@/stores/workspace'

/** The form of a control: for a new one, or to change one that is there. */
const doc = useDocument()
const selection = useSelection()
const workspace = useWorkspace()

const kinds: { value: Widget; label: string }[] = [
  { value: 'slider', label: 'Slider' },
  { value: 'angle', label: 'Angle' },
  { value: 'colour', label: 'Colour' },
  { value: 'point', label: 'Point' },
  { value: 'switch', label: 'Switch' },
  { value: 'menu', label: 'Menu' },
]
const units = (['', '%', 'px', 's', 'm', '°', '/s'] satisfies Unit[]).map((u) => ({ value: u, label: u || 'No unit' }))
const newNull = 'new'

const form = reactive({
  owner: newNull,
  ownerName: 'Panel',
  kind: 'slider' as Widget,
  name: '',
  unit: '%' as Unit,
  from: 0,
  to: 100,
  whole: false,
  depth: false,
  note: '',
  entries: ['Option 1', 'Option 2'],
})
const wrong = ref('')

const shown = computed(() => workspace.addingControl || workspace.editingControl !== null)
const edited = computed(() => {
  const [item, id] = workspace.editingControl?.split('/') ?? []
  const control = doc.items.get(item ?? '')?.controls?.find((c) => c.id === id)
  return control && item ? { item, control } : undefined
})
const owners = computed(() => [
  ...doc.order.map((id) => ({ value: id, label: doc.items.get(id)?.name ?? '' })),
  { value: newNull, label: 'A new null' },
])
const ranged = computed(() => form.kind === 'slider' || form.kind === 'point' || form.kind === 'angle')

const naming = useTemplateRef<InstanceType<typeof NInput>>('naming')
watch(shown, (open) => {
  if (!open) return
  void nextTick(() => setTimeout(() => naming.value?.focus())) // after the dialog has taken the focus
  wrong.value = ''
  const c = edited.value?.control
  if (c)
    Object.assign(form, {
      kind: c.kind,
      name: c.name,
      unit: c.unit ?? '',
      from: c.softMin ?? 0,
      to: c.softMax ?? 0,
      whole: c.whole ?? false,
      depth: c.depth ?? false,
      note: c.note ?? '',
      entries: c.options ?? [],
    })
  else {
    const owner = selection.control?.item ?? selection.ids[0] ?? doc.order.find((id) => doc.items.get(id)?.kind === 'null') ?? newNull
    Object.assign(form, {
      owner,
      kind: 'slider',
      name: '',
      unit: '%' as Unit,
      from: 0,
      to: 100,
      whole: false,
      depth: false,
      note: '',
      entries: ['Option 1', 'Option 2'],
    })
  }
})
watch(
  () => form.kind,
  (kind) => {
    if (edited.value) return
    const range = { slider: [0, 100], angle: [-180, 180], point: [-500, 500], colour: [0, 0], switch: [0, 0], menu: [0, 0] }[kind]
    ;[form.from, form.to] = range as [number, number]
  },
)

function close(): void {
  workspace.addingControl = false
  workspace.editingControl = null
}

function described(): Partial<Control> {
  const slider = form.kind === 'slider'
  return {
    name: form.name.trim(),
    kind: form.kind,
    note: form.note,
    ...(slider ? { unit: form.unit, whole: form.whole } : {}),
    ...(ranged.value ? { softMin: form.from, softMax: form.to } : {}),
    ...(form.kind === 'point' ? { depth: form.depth } : {}),
    ...(form.kind === 'menu' ? { options: form.entries.map((e) => e.trim()).filter(Boolean) } : {}),
  }
}

async function finish(): Promise<void> {
  if (ranged.value && form.from >= form.to) {
    wrong.value = 'The end of the range must be greater than its start.'
    return
  }
  if (edited.value) {
    const { item, control } = edited.value
    const named = { ...control, ...described(), name: form.name.trim() || control.name }
    if (await doc.operations({ op: 'control.set', item, value: named })) close()
    return
  }
  let owner = form.owner
  if (owner === newNull) {
    const made = await doc.gesture('add', { kind: 'null', name: form.ownerName.trim() || 'Panel' })
    if (!made?.made?.[0]) return
    owner = made.made[0]
  }
  const done = await doc.gesture('add control', { item: owner, control: described() })
  if (!done) return
  close()
  if (done.made?.[0]) selection.pickControl({ item: owner, property: done.made[0] })
}
</script>

<template>
  <NModal
    :show="shown"
    preset="card"
    size="small"
    style="width: 460px"
    :title="edited ? `Control ${edited.control.name}` : 'New control'"
    @update:show="close"
  >
    <NForm label-placement="left" label-width="88" size="small" @submit.prevent="finish">
      <NFormItem v-if="!edited" label="Add to" :show-feedback="false"
        ><NSelect v-model:value="form.owner" filterable :options="owners" aria-label="Add to"
      /></NFormItem>
      <NFormItem v-if="!edited && form.owner === newNull" label="Null's name" :show-feedback="false"
        ><NInput v-model:value="form.ownerName" :input-props="{ 'aria-label': 'Name of the null' }"
      /></NFormItem>
      <NFormItem v-if="!edited" label="Kind" :show-feedback="false">
        <NRadioGroup v-model:value="form.kind" name="kind"
          ><NRadioButton v-for="k in kinds" :key="k.value" :value="k.value" :label="k.label"
        /></NRadioGroup>
      </NFormItem>
      <NFormItem label="Name" :show-feedback="false"
        ><NInput
          ref="naming"
          v-model:value="form.name"
          autofocus
          maxlength="200"
          :placeholder="edited ? '' : 'e.g. Wind strength'"
          :input-props="{ 'aria-label': 'Name of the control' }"
      /></NFormItem>
      <NFormItem v-if="form.kind === 'slider'" label="Unit" :show-feedback="false"
        ><NSelect v-model:value="form.unit" :options="units" aria-label="Unit"
      /></NFormItem>
      <NFormItem v-if="ranged" label="Range" :show-feedback="false">
        <NInputNumber v-model:value="form.from" :show-button="false" :input-props="{ 'aria-label': 'Range from' }" /><span class="to"
          >to</span
        ><NInputNumber v-model:value="form.to" :show-button="false" :input-props="{ 'aria-label': 'Range to' }" />
      </NFormItem>
      <NFormItem v-if="form.kind === 'menu'" label="Options" :show-feedback="false"
        ><NDynamicInput v-model:value="form.entries" :min="1" :max="100" placeholder="Option name" aria-label="Options"
      /></NFormItem>
      <NFormItem v-if="form.kind === 'slider'" label="Whole numbers" :show-feedback="false"
        ><NSwitch v-model:value="form.whole" aria-label="Whole numbers only"
      /></NFormItem>
      <NFormItem v-if="form.kind === 'point' && !edited" label="3D (x, y, z)" :show-feedback="false"
        ><NSwitch v-model:value="form.depth" aria-label="3D: x, y and z"
      /></NFormItem>
      <NFormItem label="Note" :show-feedback="false"
        ><NInput
          v-model:value="form.note"
          type="textarea"
          :autosize="{ minRows: 1, maxRows: 4 }"
          maxlength="2000"
          :input-props="{ 'aria-label': 'Note' }"
      /></NFormItem>
      <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
      <div class="end">
        <NButton size="small" @click="close">Cancel</NButton
        ><NButton size="small" type="primary" attr-type="submit">{{ edited ? 'Save' : 'Add' }}</NButton>
      </div>
    </NForm>
  </NModal>
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
