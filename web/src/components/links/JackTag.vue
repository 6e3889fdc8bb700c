<script setup lang="ts">
import { computed } from 'vue'
import { useWiring, type Jack } from '@/stores/wiring'
import { vJack } from './jacks'

/** The tagged socket of a control or property. Pull a cable out of it, or drop one on it. */
const props = defineProps<{ jack: Jack; tag: string; driven?: boolean; drives?: number; known?: boolean }>()
const wiring = useWiring()

const refusal = computed(() => wiring.refusal(props.jack))
const here = computed(
  () => wiring.source?.refs[0]?.property === props.jack.refs[0]?.property && wiring.source?.refs[0]?.item === props.jack.refs[0]?.item,
)
/** How many it drives, in three letters. */
const few = computed(() => ((props.drives ?? 0) < 1000 ? props.drives : `${Math.floor((props.drives ?? 0) / 1000)}k`))
const counted = computed(() => (props.drives === 1 ? 'Drives 1 property' : `Drives ${props.drives} properties`))
const title = computed(() => {
  if (wiring.source && !here.value) return refusal.value || `Connect: ${wiring.source.name} drives ${props.jack.name}`
  return `Drag to the property ${props.jack.name} should drive`
})

function grab(event: PointerEvent): void {
  if (event.button !== 0) return
  event.preventDefault()
  const box = (event.currentTarget as HTMLElement).getBoundingClientRect()
  wiring.grab(props.jack, box.left + box.width / 2, box.top + box.height / 2)
}
</script>

<template>
  <span class="socket" :class="{ counted: drives || known }">
    <span
      v-jack="jack"
      class="jack figures"
      :class="{
        driven,
        drives,
        fits: wiring.source && !here && !refusal,
        back: wiring.source && !here && refusal,
        here: wiring.source && here,
      }"
      data-jack
      :title="title"
      :aria-label="`Jack of ${jack.name}`"
      role="img"
      @pointerdown.stop="grab"
      @pointerenter="wiring.jack = jack.refs[0] ?? null"
      @pointerleave="wiring.jack = null"
      >{{ tag }}</span><i v-if="drives" class="count figures" :title="counted">{{ few }}</i
    ><i v-else-if="known" class="count none" title="Not linked">–</i>
  </span>
</template>

<style scoped>
.socket {
  display: inline-flex;
  align-items: center;
  flex: none;
}
.jack {
  display: inline-grid;
  place-items: center;
  width: 32px;
  height: 16px;
  flex: none;
  font-size: 11px;
  line-height: 1;
  border: 1px solid var(--track);
  border-radius: 3px;
  color: var(--ink2);
  background: var(--card);
  cursor: grab;
  touch-action: none;
  user-select: none;
}
/* How many it drives stands beside it, so that its letters are read. */
.count {
  min-width: 20px;
  padding: 0 2px 0 3px;
  color: var(--ink2);
  font-size: 11px;
  font-style: normal;
}
.count.none {
  color: var(--ochre);
}
.jack:hover {
  border-color: var(--brass);
  color: var(--brassText);
}
.drives {
  border-color: var(--brass);
  color: var(--brassText);
}
.driven {
  background: var(--verdigris);
  border-color: var(--verdigris);
  color: var(--card);
}
.fits {
  border-color: var(--brass);
  background: var(--picked);
  color: var(--brassText);
  outline: 2px solid var(--brass);
  outline-offset: 1px;
}
.fits.driven {
  background: var(--verdigris);
  color: var(--card);
}
.back {
  opacity: 0.3;
}
.here {
  background: var(--brass);
  border-color: var(--brass);
  color: var(--onBrass);
}
</style>
