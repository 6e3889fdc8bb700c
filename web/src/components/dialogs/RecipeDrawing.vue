<script setup lang="ts">
import { computed } from 'vue'
import { drawings, type Part } from './recipeDrawings'

/** A small moving drawing of what a recipe does. It stands still for who wants no motion. */
const props = defineProps<{ recipe: string }>()
const parts = computed(() => drawings[props.recipe] ?? [])
const round = 2.4 // seconds
const style = (p: Part): Record<string, string> => ({
  transformOrigin: `${p.at[0]}px ${p.at[1]}px`,
  animationDuration: `${round}s`,
  animationDelay: `${round * ((p.late ?? 0) - 1)}s`,
})
</script>

<template>
  <svg viewBox="0 0 44 24" width="44" height="24" aria-hidden="true">
    <g v-for="(p, k) in parts" :key="k" :class="[p.move, { faint: p.faint }]" :style="style(p)">
      <circle v-if="p.shape === 'dot'" :cx="p.at[0]" :cy="p.at[1]" :r="(p.size ?? 6) / 2" />
      <circle v-else-if="p.shape === 'ring'" class="open" :cx="p.at[0]" :cy="p.at[1]" :r="(p.size ?? 6) / 2" />
      <rect v-else-if="p.shape === 'bar'" :x="p.at[0] - 3" :y="p.at[1] - 4" width="6" height="8" rx="1" />
      <rect v-else-if="p.shape === 'flat'" :x="p.at[0] - (p.size ?? 10) / 2" :y="p.at[1] - 1" :width="p.size ?? 10" height="2" rx="1" />
      <path v-else class="open" :d="`M${p.at[0] - (p.size ?? 9) / 2} ${p.at[1]}h${p.size ?? 9}`" />
    </g>
  </svg>
</template>

<style scoped>
svg {
  flex: none;
  color: var(--brassText);
  overflow: visible;
}
circle,
rect {
  fill: currentColor;
}
.open {
  fill: none;
  stroke: currentColor;
  stroke-width: 1.4;
}
.faint {
  opacity: 0.45;
}
g {
  animation-iteration-count: infinite;
  animation-timing-function: ease-in-out;
  animation-direction: alternate;
}
.rise {
  animation-name: rise;
}
.sway {
  animation-name: sway;
}
.turn {
  animation-name: turn;
  animation-direction: normal;
  animation-timing-function: linear;
}
.back {
  animation-name: turn;
  animation-direction: reverse;
  animation-timing-function: linear;
}
.blink {
  animation-name: blink;
}
.slide {
  animation-name: slide;
}
.far {
  animation-name: far;
}
.grow {
  animation-name: grow;
}
.stretch {
  animation-name: stretch;
}
.swing {
  animation-name: swing;
}
.orbit {
  animation-name: orbit;
  animation-direction: normal;
  animation-timing-function: linear;
}
.thin {
  animation-name: thin;
}
@keyframes rise {
  from {
    transform: translateY(8px) scale(0.2);
    opacity: 0;
  }
}
@keyframes sway {
  from {
    transform: translateY(-5px);
  }
  to {
    transform: translateY(5px);
  }
}
@keyframes turn {
  to {
    transform: rotate(360deg);
  }
}
@keyframes blink {
  from {
    opacity: 0.15;
  }
}
@keyframes slide {
  from {
    transform: translateX(-6px);
  }
  to {
    transform: translateX(6px);
  }
}
@keyframes far {
  from {
    transform: translateX(9px);
  }
  to {
    transform: translateX(-9px);
  }
}
@keyframes grow {
  from {
    transform: scale(0);
  }
}
@keyframes stretch {
  from {
    transform: scaleX(0.45);
  }
}
@keyframes swing {
  from {
    transform: rotate(-24deg);
  }
  to {
    transform: rotate(24deg);
  }
}
@keyframes orbit {
  from {
    transform: rotate(0deg) translateX(9px);
  }
  to {
    transform: rotate(360deg) translateX(9px);
  }
}
@keyframes thin {
  from {
    transform: scale(0.5);
  }
}
@media (prefers-reduced-motion: reduce) {
  g {
    animation: none;
  }
}
</style>
