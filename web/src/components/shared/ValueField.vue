<script setup lang="ts">
import { computed, nextTick, ref, useTemplateRef } from 'vue'
import { dragging } from '@/composables/drag'
import { short } from '@/composables/format'
import { useGivingBack } from '@/composables/givingBack'
import { said, sentence } from '@/composables/notify'
import { useReckoning } from '@/composables/reckoning'
import { useStepping } from '@/composables/stepping'
import type { Reckoned } from '@/core/types'

/** A number: drag to change, click to type (a number, or a formula that gives one), arrow keys to step. */
const props = defineProps<{
  value: number
  label: string
  step?: number
  min?: number
  max?: number
  driven?: boolean
  unit?: string
  beyond?: boolean // it lies outside the range
  mixed?: boolean
  disabled?: boolean
  /** For what counts in frames: how many a second has, so that 2s can be typed. */
  rate?: number
}>()
const emit = defineEmits<{ preview: [value: number]; commit: [value: number]; cancel: [] }>()

const editing = ref(false)
const draft = ref('')
const wrong = ref('') // what is, in a sentence
const reckoning = useReckoning(draft)
const field = useTemplateRef<HTMLInputElement>('field')
const button = useTemplateRef<HTMLButtonElement>('button')
const stepping = useStepping(() => props.value)
const { back } = useGivingBack(() => button.value)
const shown = computed(() => (props.mixed ? 'mixed' : short(props.value)))

function held(x: number): number {
  const exact = Math.abs(x) < 1e9 ? Math.round(x * 1e6) / 1e6 : x
  return Math.min(props.max ?? Infinity, Math.max(props.min ?? -Infinity, exact))
}

function factor(event: { shiftKey: boolean; altKey: boolean }): number {
  return (props.step ?? 1) * (event.shiftKey ? 10 : event.altKey ? 0.1 : 1)
}

function start(event: PointerEvent): void {
  if (props.disabled) return
  const from = props.value
  let at = from
  dragging(
    event,
    (dx, _dy, e) => emit('preview', (at = held(from + Math.round(dx / 2) * factor(e)))),
    (moved) => (moved ? emit('commit', at) : void edit()),
    () => emit('cancel'),
  )
}

async function edit(): Promise<void> {
  if (props.disabled) return
  draft.value = props.mixed ? '' : String(Math.round(props.value * 1e6) / 1e6)
  wrong.value = ''
  editing.value = true
  await nextTick()
  field.value?.select()
}

function finish(): void {
  if (!editing.value) return
  const text = draft.value.trim()
  if (text === '') return close()
  const known = reckoning.now(text)
  if (known) settle(known)
  else
    void reckoning.ask(text).then((answer) => {
      if (draft.value.trim() === text) settle(answer)
    })
}

function settle({ value: given, unit, sentence: says }: Reckoned): void {
  if (given === undefined || given === null) {
    wrong.value = sentence(says ?? 'Enter a number or a calculation, such as 320/3')
    return
  }
  const value = props.rate && unit === 's' ? Math.round(given * props.rate) : given
  close()
  const x = held(value)
  if (Math.abs(x - value) > 1e-6) said(sentence(`${props.label} ${bound(x)}`))
  if (x !== props.value || props.mixed) emit('commit', stepping.to(x))
}

/** Why what was typed is not what it became. */
function bound(x: number): string {
  if (props.min === props.max) return `is locked at ${short(x)}; its menu unlocks it`
  return `is ${x === props.max ? 'at most' : 'at least'} ${short(x)}`
}

function close(): void {
  const had = document.activeElement === field.value
  editing.value = false
  if (had) back()
}

function drop(): void {
  close()
  draft.value = ''
}

function leave(): void {
  finish()
  editing.value = false
}

function keys(event: KeyboardEvent): void {
  const direction = { ArrowUp: 1, ArrowDown: -1 }[event.key]
  if (direction !== undefined && !props.disabled) {
    event.preventDefault()
    event.stopPropagation()
    const from = (editing.value ? reckoning.now(draft.value.trim())?.value : undefined) ?? stepping.from()
    const next = stepping.to(held(from + direction * factor(event)))
    if (editing.value) draft.value = String(next)
    emit('commit', next)
  } else if (event.key === 'Enter') {
    event.preventDefault()
    if (editing.value) finish()
    else void edit()
  } else if (!editing.value && /^[\d.\-(]$/.test(event.key) && !event.ctrlKey && !event.metaKey) {
    event.preventDefault()
    void edit().then(() => (draft.value = event.key))
  }
}
</script>

<template>
  <input
    v-if="editing"
    ref="field"
    v-model="draft"
    class="value figures field"
    :class="{ wrong: wrong !== '' }"
    :aria-label="label"
    :aria-invalid="wrong !== ''"
    inputmode="decimal"
    spellcheck="false"
    :title="wrong || undefined"
    @blur="leave"
    @keydown="keys"
    @keydown.esc.stop="drop"
    @pointerdown.stop
  />
  <button
    v-else
    ref="button"
    class="plain value figures"
    :class="{ driven, mixed, beyond }"
    :title="beyond ? 'Outside the range' : undefined"
    :aria-label="`${label}: ${shown}`"
    :data-value="value"
    :disabled="disabled"
    @pointerdown="start"
    @keydown="keys"
  >
    {{ shown }}<span v-if="unit" class="unit">{{ unit }}</span>
  </button>
</template>

<style scoped>
.value {
  flex: none;
  min-width: 30px;
  text-align: right;
  padding: 0 5px;
  height: 20px;
  line-height: 18px;
  border: 1px solid transparent;
  background: var(--well);
  color: var(--ink);
  cursor: ew-resize;
  touch-action: none;
  white-space: nowrap;
  border-radius: 3px;
}
.value:hover {
  border-color: var(--brass);
}
.value:disabled {
  background: none;
  border-color: transparent;
  cursor: default;
}
.unit {
  margin-left: 4px;
  color: var(--ink2);
}
.beyond {
  color: var(--ochre);
  border-color: var(--ochre);
}
.driven {
  color: var(--verdigris);
}
.mixed {
  color: var(--ink2);
}
.field {
  width: 72px;
  cursor: text;
  background: var(--card);
  color: var(--ink);
  border: 1px solid var(--brass);
  border-radius: 3px;
}
.field.wrong {
  border-color: var(--oxblood);
  color: var(--oxblood);
}
</style>
