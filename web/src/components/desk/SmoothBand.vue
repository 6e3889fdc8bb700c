<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { sentence } from '@/composables/notify'
import { usePinOf } from '@/composables/pinOf'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'
import ValueField from '@/components/shared/ValueField.vue'

/** Choosing how many of the picked pins stay: accuracy against smoothness, seen in the picture and on the tracks meanwhile. */
const emit = defineEmits<{ close: [] }>()
const doc = useDocument()
const selection = useSelection()
const pinOf = usePinOf()

/** The stretch of values that the pins take: what a tolerance is measured by. */
const span = computed(() => {
  let [low, high] = [Infinity, -Infinity]
  for (const p of named) {
    const value = pinOf(p)?.value
    for (const x of [value].flat()) {
      if (typeof x !== 'number') continue
      low = Math.min(low, x)
      high = Math.max(high, x)
    }
  }
  return high > low ? high - low : 1
})
const named = [...selection.pins]
const whole = span.value // before anything is left out
const share = ref(20)
/** Finer where it is small. */
const of = (at: number): number => Number((whole * 0.25 * (at / 100) ** 2).toPrecision(3))
const tolerance = ref(of(share.value))

const told = ref('')
async function preview(): Promise<void> {
  told.value = ''
  await doc.preview('smooth pins', { pins: named, tolerance: tolerance.value }, (error) => (told.value = (error as Error).message))
  told.value ||= doc.previewed
}
function slide(at: number): void {
  share.value = at
  tolerance.value = of(at)
  void preview()
}
function type(value: number): void {
  tolerance.value = value
  share.value = Math.min(100, Math.round(100 * Math.sqrt(value / whole / 0.25)))
  void preview()
}
async function apply(): Promise<void> {
  const done = await doc.gesture('smooth pins', { pins: named, tolerance: tolerance.value })
  if (!done) return
  applied = true
  selection.pins = done.pins ?? []
  emit('close')
}
let applied = false
const cancel = (): void => emit('close')
onMounted(preview)
onBeforeUnmount(() => applied || void doc.cancelPreview())
// Other pins are another matter.
watch(() => selection.pins, cancel)
</script>

<template>
  <div class="band" role="group" aria-label="Smooth the picked pins" @keydown.esc.stop="cancel" @keydown.enter.self="apply">
    <span class="quiet">As performed</span>
    <input
      class="rail"
      type="range"
      :value="share"
      max="100"
      aria-label="Tolerance"
      @input="(e) => slide(Number((e.target as HTMLInputElement).value))"
    />
    <span class="quiet">few pins</span>
    <label class="quiet">at most <ValueField :value="tolerance" label="Tolerance" :min="0" :step="0.1" @commit="type" /> off</label>
    <span class="told" role="status">{{ told && sentence(told) }}</span>
    <button class="plain act strong" @click="apply">Smooth</button>
    <button class="plain act" @click="cancel">Cancel</button>
  </div>
</template>

<style scoped>
.band {
  display: flex;
  align-items: center;
  gap: 8px;
  font-size: 12px;
  white-space: nowrap;
}
.rail {
  width: 130px;
  height: 24px;
  margin: 0;
  accent-color: var(--brass);
}
label {
  display: flex;
  align-items: center;
  gap: 4px;
}
.told {
  min-width: 190px;
}
.act {
  padding: 1px 7px;
  min-height: 24px;
  border-radius: 4px;
  border: 1px solid var(--line);
}
.act:hover {
  background: var(--picked);
}
.strong {
  color: var(--brassText);
  border-color: var(--brass);
}
</style>
