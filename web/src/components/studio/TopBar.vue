<script setup lang="ts">
import { NSwitch, NTooltip } from 'naive-ui'
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import IconBack from '~icons/tabler/player-skip-back'
import IconPlay from '~icons/tabler/player-play-filled'
import IconPause from '~icons/tabler/player-pause-filled'
import IconEnd from '~icons/tabler/player-skip-forward'
import IconFrame from '~icons/tabler/photo-down'
import IconUndo from '~icons/tabler/arrow-back-up'
import IconRedo from '~icons/tabler/arrow-forward-up'
import IconKeys from '~icons/tabler/keyboard'
import IconLamp from '~icons/tabler/lamp'
import IconSun from '~icons/tabler/sun'
import { api } from '@/net/api'
import { fetched } from '@/composables/download'
import { percentOf } from '@/composables/format'
import { themeName } from '@/composables/theme'
import { useDocument } from '@/stores/document'
import { useExporting } from '@/stores/exporting'
import { useShared } from '@/stores/shared'
import { usePlayback } from '@/stores/playback'
import { useWorkspace } from '@/stores/workspace'
import CompositionMenu from './CompositionMenu.vue'
import ProblemList from './ProblemList.vue'
import EditableName from '@/components/shared/EditableName.vue'

const doc = useDocument()
const playback = usePlayback()
const workspace = useWorkspace()
const exporting = useExporting()
const shared = useShared()

const clock = computed(() => {
  const seconds = Math.floor(playback.frame / playback.rate)
  const rest = playback.frame % playback.rate
  const two = (n: number): string => String(n).padStart(2, '0')
  return `${two(Math.floor(seconds / 60))}:${two(seconds % 60)}:${two(rest)}`
})
/** How far the export is that is made here, or else on the server, in percent. */
const share = computed(() => (exporting.job ? exporting.percent : shared.busy ? percentOf(shared.busy.done, shared.busy.of) : null))
const saved = computed(() => ({ saved: 'Saved', saving: 'Saving…', retrying: 'Not saved. Retrying…' })[doc.saveState])
function frameAsSVG(): void {
  fetched(`${doc.composition?.name ?? 'frame'} ${playback.frame}.svg`, api.frame(doc.project, doc.compositionId, playback.frame))
}
</script>

<template>
  <header class="bar">
    <div class="left">
      <RouterLink to="/" class="home" aria-label="All projects"><img src="/icon.svg" alt="" width="22" height="22" /></RouterLink>
      <h1 class="hidden-label">{{ doc.name }}</h1>
      <EditableName
        class="project"
        label="Project name"
        :name="doc.name"
        @rename="(name) => doc.operations({ op: 'project.rename', name })"
      />
      <span class="quiet">/</span>
      <CompositionMenu />
      <span class="saved" role="status" :class="doc.saveState" :title="doc.saveDetail">{{ saved }}</span>
    </div>
    <div class="transport" role="group" aria-label="Transport">
      <button class="plain icon" aria-label="First frame" @click="playback.seek(0)"><IconBack /></button>
      <button class="plain play" :aria-label="playback.playing ? 'Pause' : 'Play'" @click="playback.toggle">
        <IconPause v-if="playback.playing" /><IconPlay v-else />
      </button>
      <button class="plain icon" aria-label="Last frame" @click="playback.seek(playback.frames - 1)"><IconEnd /></button>
      <span class="clock figures" data-testid="clock">{{ clock }}</span>
      <span
        class="figures quiet pace"
        :class="{ dropping: playback.dropping !== null }"
        :style="{ minWidth: `${21 + 2 * String(playback.frames - 1).length}ch` }"
        :title="
          playback.dropping === null
            ? undefined
            : `${playback.dropping} of ${playback.rate} frames a second are shown: others are dropped, so that time is kept`
        "
        >frame {{ playback.frame }} / {{ playback.frames - 1 }} ·
        {{ playback.dropping === null ? playback.rate : `${playback.dropping}/${playback.rate}` }} fps{{
          playback.playing && playback.speed !== 1 ? ` · ${playback.speed}×` : ''
        }}</span
      >
      <label class="auto" title="Pin every change at this frame"
        ><NSwitch v-model:value="playback.autoPin" size="small" aria-label="Auto pin" /> Auto pin</label
      >
    </div>
    <div class="right">
      <ProblemList />
      <button
        class="plain export"
        title="Choose the controls that a colleague may use, or a piece has in other compositions"
        @click="workspace.handingOff = true"
      >
        Hand off
      </button>
      <button
        class="plain export"
        :aria-label="share === null ? 'Export' : `Exporting, ${share} %`"
        title="Export the composition as a file"
        @click="workspace.exporting = true"
      >
        {{ share === null ? 'Export' : `Exporting ${share} %` }}
      </button>
      <NTooltip
        ><template #trigger
          ><button class="plain icon" aria-label="Save this frame as SVG" @click="frameAsSVG"><IconFrame /></button></template
        >Save frame as SVG (shapes and text only)</NTooltip
      >
      <NTooltip
        ><template #trigger
          ><button class="plain icon" aria-label="Undo" :disabled="!doc.canUndo" @click="doc.undo"><IconUndo /></button></template
        >Undo · Ctrl Z</NTooltip
      >
      <NTooltip
        ><template #trigger
          ><button class="plain icon" aria-label="Redo" :disabled="!doc.canRedo" @click="doc.redo"><IconRedo /></button></template
        >Redo · Ctrl Shift Z</NTooltip
      >
      <NTooltip
        ><template #trigger
          ><button class="plain icon" aria-label="Keyboard shortcuts" @click="workspace.keysShown = true"><IconKeys /></button></template
        >Keyboard shortcuts · ?</NTooltip
      >
      <button
        class="plain icon"
        :aria-label="themeName === 'daylight' ? 'Switch to lamplight' : 'Switch to daylight'"
        @click="themeName = themeName === 'daylight' ? 'lamplight' : 'daylight'"
      >
        <IconLamp v-if="themeName === 'daylight'" /><IconSun v-else />
      </button>
    </div>
  </header>
</template>

<style scoped>
.export {
  border: 1px solid var(--line);
  border-radius: 4px;
  padding: 2px 10px;
  min-height: 26px;
  white-space: nowrap;
}
.export:hover {
  background: var(--picked);
}
.pace {
  white-space: nowrap;
}
.dropping {
  color: var(--oxblood);
}
.bar {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto minmax(min-content, 1fr);
  align-items: center;
  gap: 16px;
  padding: 0 12px;
  border-bottom: 1px solid var(--line);
}
.left,
.right,
.transport {
  display: flex;
  align-items: center;
  gap: 8px;
  min-width: 0;
}
.right {
  justify-content: flex-end;
}
@media (max-width: 1000px) {
  .bar,
  .left,
  .transport,
  .right {
    display: flex;
    flex-wrap: wrap;
  }
  .bar {
    padding: 6px 12px;
    gap: 4px 16px;
  }
}
.home {
  display: grid;
  place-items: center;
  min-width: 24px;
  height: 24px;
}
.project {
  font: 600 15px var(--face-heading);
}
.saved {
  font-size: 12px;
  color: var(--ink2);
  margin-left: 6px;
  white-space: nowrap;
}
.saved.retrying {
  color: var(--oxblood);
  font-weight: 500;
}
.icon {
  width: 26px;
  height: 26px;
  display: grid;
  place-items: center;
  border-radius: 4px;
  font-size: 17px;
}
.icon:hover:not(:disabled) {
  background: var(--picked);
}
.icon:disabled {
  opacity: 0.35;
  cursor: default;
}
.play {
  width: 30px;
  height: 30px;
  border-radius: 50%;
  border: 1px solid var(--brass);
  color: var(--brassText);
  display: grid;
  place-items: center;
  font-size: 14px;
}
.auto {
  display: flex;
  align-items: center;
  gap: 6px;
  font-size: 12px;
  margin-left: 8px;
  white-space: nowrap;
}
.clock {
  font-size: 15px;
  font-weight: 500;
  margin-left: 6px;
  min-width: 66px;
}
</style>
