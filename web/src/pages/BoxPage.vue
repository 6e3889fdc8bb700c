<script setup lang="ts">
import { onBeforeUnmount, ref } from 'vue'
import { bytesOf, reader } from '@/box/messages'
import { channel, simulated, type Told } from '@/box/simulated'

/** A box with faders, knobs and keys to try things with: a window that speaks as a real one does, and whose faders have motors. */
const shares = ref<Record<string, number>>(Object.fromEntries([...simulated.faders, ...simulated.knobs].map((from) => [from, 0])))
const air = channel()
const tell = (told: Told): void => air.postMessage(told)
const read = reader()
air.onmessage = ({ data }: MessageEvent<Told>) => {
  if ('studio' in data) return tell({ box: 'here' })
  const m = 'to' in data && data.to === 'box' && read(data.bytes)
  if (m && 'share' in m) shares.value[m.from] = m.share
}
tell({ box: 'here' })
window.addEventListener('pagehide', () => tell({ box: 'gone' }))
onBeforeUnmount(() => tell({ box: 'gone' }))
document.title = 'Simulated box'

function move(from: string, event: Event): void {
  const share = Number((event.target as HTMLInputElement).value)
  shares.value[from] = share
  for (const bytes of bytesOf(from, share)) tell({ to: 'studio', bytes })
}
const press = (k: number): void => tell({ to: 'studio', bytes: [0x90, k + 36, 100] })
</script>

<template>
  <main class="box">
    <h1>Simulated box</h1>
    <p class="quiet">
      It sends what a box with faders sends. In the studio, arm controls, press <b>Box</b>, then <b>Learn</b>, and move a fader here.
    </p>
    <div class="row">
      <label v-for="(from, k) in simulated.knobs" :key="from" class="knob">
        <input type="range" min="0" max="1" step="any" :value="shares[from]" :aria-label="`Knob ${k + 1}`" @input="move(from, $event)" />
      </label>
    </div>
    <div class="row">
      <button v-for="k in 8" :key="k" class="key" :aria-label="`Key ${k}`" @click="press(k - 1)">{{ k }}</button>
    </div>
    <div class="row">
      <label v-for="(from, k) in simulated.faders" :key="from" class="fader">
        <input type="range" min="0" max="1" step="any" :value="shares[from]" :aria-label="`Fader ${k + 1}`" @input="move(from, $event)" />
        {{ k + 1 }}
      </label>
    </div>
  </main>
</template>

<style scoped>
.box {
  padding: 12px 16px;
  display: flex;
  flex-direction: column;
  gap: 10px;
  height: 100vh;
  overflow: auto;
}
h1 {
  margin: 0;
  font: 600 15px var(--face-heading);
}
p {
  margin: 0;
  font-size: 12px;
}
.row {
  display: grid;
  grid-template-columns: repeat(8, minmax(0, 1fr));
  gap: 6px;
  justify-items: center;
}
.key {
  width: 100%;
  min-height: 28px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--sunk);
  color: var(--ink);
}
.key:active {
  background: var(--picked);
}
.fader {
  display: flex;
  flex-direction: column;
  align-items: center;
  gap: 4px;
  font: 11px var(--face-figures);
  color: var(--ink2);
}
input {
  accent-color: var(--brass);
  width: 100%;
}
.fader input {
  writing-mode: vertical-lr;
  direction: rtl;
  width: 24px;
  height: 140px;
}
</style>
