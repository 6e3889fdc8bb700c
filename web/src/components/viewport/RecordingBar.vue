<script setup lang="ts">
import { computed } from 'vue'
import MenuList from '@/components/shared/MenuList.vue'
import { useBox } from '@/stores/box'
import { useDocument } from '@/stores/document'
import { useRecording } from '@/stores/recording'
import ModeBand from './ModeBand.vue'

/** Over the viewport while controls are armed: which, how fast time will run, and the way to begin and out. */
const recording = useRecording()
const box = useBox()
const doc = useDocument()
const speeds = [
  { value: 1, label: 'Full speed' },
  { value: 0.5, label: 'Half' },
  { value: 0.25, label: 'Quarter' },
]
const ways = [
  { key: 'adds', label: 'Adds', what: 'What the hand does is added to how the controls move; off: it replaces that' },
  { key: 'loops', label: 'Loops', what: 'The range is played over and over, and each time is a step to undo' },
  { key: 'countsIn', label: 'Counts in', what: 'Three seconds are counted before it begins' },
] as const
const boxes = computed(() => [
  { key: 'learn', label: 'Learn: bind what is armed' },
  { key: 'connect', label: 'Connect a box' },
  { key: 'simulated', label: 'Open the simulated box' },
])
function run(key: string): void {
  const acts: Record<string, () => unknown> = { learn: box.learn, connect: box.connect, simulated: box.openSimulated }
  void acts[key]?.()
}
const names = computed(
  () => recording.names.slice(0, 2).join(', ') + (recording.names.length > 2 ? ` and ${recording.names.length - 2} more` : ''),
)
</script>

<template>
  <ModeBand v-if="box.learning">
    <template #what
      ><b class="sign">Learning</b> Move a fader on the box for <b>{{ box.wanted ? doc.nameOf(box.wanted) : 'nothing' }}</b></template
    >
    <button class="plain done" @click="box.learning = false">Done</button>
  </ModeBand>
  <ModeBand v-else-if="recording.armed.length">
    <template #what
      ><b class="sign">{{ recording.counting || (recording.running ? 'Recording' : 'Armed') }}</b> {{ names }}</template
    >
    <template v-if="!recording.busy">
      <button
        v-for="s in speeds"
        :key="s.value"
        class="plain"
        :aria-pressed="recording.speed === s.value"
        @click="recording.speed = s.value"
      >
        {{ s.label }}
      </button>
      <button
        v-for="w in ways"
        :key="w.key"
        class="plain"
        :aria-pressed="recording[w.key]"
        :title="w.what"
        @click="recording[w.key] = !recording[w.key]"
      >
        {{ w.label }}
      </button>
      <MenuList trigger="click" size="small" :options="boxes" placement="bottom-end" @select="run">
        <button class="plain menu">Box</button>
      </MenuList>
      <button class="plain" @click="recording.disarm">Disarm</button>
    </template>
    <button class="plain done" title="Shift Space" @click="recording.toggle">{{ recording.busy ? 'Stop' : 'Record' }}</button>
  </ModeBand>
</template>

<style scoped src="./band.css"></style>

<style scoped>
.sign {
  color: var(--oxblood);
}
</style>
