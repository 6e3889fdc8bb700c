<script setup lang="ts">
import { computed } from 'vue'
import IconPause from '~icons/tabler/player-pause-filled'
import IconPlay from '~icons/tabler/player-play-filled'
import { useReadings } from '@/composables/readings'
import { useDocument } from '@/stores/document'
import { usePlayback } from '@/stores/playback'

/** Time under the picture: play, where it is, the pins that were set, how long it is, whether it goes on and on. */
const loop = defineModel<boolean>('loop', { required: true })
const doc = useDocument()
const playback = usePlayback()
const readings = useReadings()

const clock = computed(() => {
  const seconds = Math.floor(playback.frame / playback.rate)
  const two = (n: number): string => String(n).padStart(2, '0')
  return `${two(Math.floor(seconds / 60))}:${two(seconds % 60)}:${two(playback.frame % playback.rate)}`
})
const last = computed(() => Math.max(1, playback.frames - 1))
/** The frames with pins, and whose they are. */
const pins = computed(() => {
  const at = new Map<number, string[]>()
  const piece = readings.piece.value
  for (const c of piece ? readings.controls.value : [])
    for (const p of doc.state(piece?.id ?? '', c.id).pins ?? []) at.set(p.frame, [...(at.get(p.frame) ?? []), c.name])
  return [...at].filter(([frame]) => frame >= 0 && frame <= last.value)
})
const toggle = (): void => (playback.playing ? playback.pause() : playback.play({ once: !loop.value }))
defineExpose({ toggle })
</script>

<template>
  <div class="time" role="group" aria-label="Time">
    <button class="plain play" :aria-label="playback.playing ? 'Pause' : 'Play'" @click="toggle">
      <IconPause v-if="playback.playing" /><IconPlay v-else />
    </button>
    <span class="figures" data-testid="clock">{{ clock }}</span>
    <span class="way">
      <input
        type="range"
        min="0"
        :max="last"
        :value="playback.frame"
        aria-label="Frame"
        :style="{ '--share': playback.frame / last }"
        @input="playback.seek(Number(($event.target as HTMLInputElement).value))"
      />
      <button
        v-for="[frame, names] in pins"
        :key="frame"
        class="plain pin"
        :class="{ here: frame === playback.frame }"
        :style="{ left: `calc(7px + ${frame / last} * (100% - 14px))` }"
        :title="`${names.join(', ')} at frame ${frame}`"
        :aria-label="`Go to frame ${frame}, with pins of ${names.join(', ')}`"
        @click="playback.seek(frame)"
      />
    </span>
    <span class="quiet">{{ Number((playback.frames / playback.rate).toFixed(2)) }} s</span>
    <label><input v-model="loop" type="checkbox" /> Loop</label>
  </div>
</template>

<style scoped>
.time {
  display: grid;
  grid-template-columns: 28px auto minmax(0, 1fr) auto auto;
  gap: 10px;
  align-items: center;
  padding: 6px 12px 18px;
  background: var(--card);
  border: 1px solid var(--line);
  border-radius: var(--radius);
}
.play {
  width: 28px;
  height: 28px;
  display: grid;
  place-items: center;
  color: var(--brassText);
  font-size: 16px;
}
.way {
  position: relative;
  display: grid;
  align-items: center;
}
input[type='range'] {
  appearance: none;
  width: 100%;
  height: 24px;
  margin: 0;
  background: none;
}
input[type='range']::-webkit-slider-runnable-track {
  height: 4px;
  border-radius: 2px;
  background: linear-gradient(90deg, var(--brass) calc(var(--share) * 100%), var(--track) 0);
}
input[type='range']::-moz-range-track {
  height: 4px;
  border-radius: 2px;
  background: linear-gradient(90deg, var(--brass) calc(var(--share) * 100%), var(--track) 0);
}
input[type='range']::-webkit-slider-thumb {
  appearance: none;
  width: 10px;
  height: 18px;
  margin-top: -7px;
  border: 1px solid var(--brass);
  border-radius: 3px;
  background: var(--card);
}
.pin {
  position: absolute;
  bottom: -19px;
  width: 24px;
  height: 24px;
  margin-left: -12px;
}
.pin::before {
  content: '';
  position: absolute;
  left: 9px;
  top: 3px;
  width: 6px;
  height: 6px;
  border-radius: 3px;
  background: var(--ink2);
}
.pin.here::before {
  background: var(--brass);
}
label {
  display: flex;
  align-items: center;
  gap: 4px;
  font-size: 12px;
  min-height: 24px;
}
label input {
  accent-color: var(--brass);
}
</style>
