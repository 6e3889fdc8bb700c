<script setup lang="ts">
import { NButton, NPopover, NTooltip } from 'naive-ui'
import { computed, shallowRef } from 'vue'
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
import { themeName } from '@/composables/theme'
import { useDocument } from '@/stores/document'
import { usePlayback } from '@/stores/playback'
import { useSelection } from '@/stores/selection'
import { useWorkspace } from '@/stores/workspace'
import { core } from '@/core/client'
import type { Check } from '@/core/types'
import { useWiring } from '@/stores/wiring'
import CompositionMenu from './CompositionMenu.vue'
import EditableName from '@/components/shared/EditableName.vue'

const doc = useDocument()
const playback = usePlayback()
const selection = useSelection()
const workspace = useWorkspace()
const wiring = useWiring()

const clock = computed(() => {
  const seconds = Math.floor(playback.frame / playback.rate)
  const rest = playback.frame % playback.rate
  return `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}.${String(rest).padStart(2, '0')}`
})
const saved = computed(() => ({ saved: 'saved', saving: 'saving', retrying: 'not saved, trying again' })[doc.saveState])
const worst = computed(() => (doc.checks.some((c) => c.severity === 'error') ? 'error' : 'warning'))

function frameAsSVG(): void {
  const link = document.createElement('a')
  link.href = api.frame(doc.project, doc.compositionId, playback.frame)
  link.download = `${doc.composition?.name ?? 'frame'} ${playback.frame}.svg`
  link.click()
}

/** What shows only over time is looked for when the list is opened. */
const deep = shallowRef<Check[]>([])
async function lookDeeper(): Promise<void> {
  deep.value = (await core.ask('deep', null)).result ?? []
}

function mend(check: Check, fix: NonNullable<Check['fixes']>[number]): void {
  if (fix.ops) void doc.gesture('operations', { ops: fix.ops }).then(lookDeeper)
  else if (fix.reattach) {
    show(check)
    wiring.reattaching = { target: { item: check.at.item, property: check.at.property }, link: fix.reattach }
    wiring.finding = [check.at]
  }
}

function show(check: Check): void {
  selection.pick(check.at.item)
  if (doc.items.get(check.at.item)?.controls?.some((c) => c.id === check.at.property)) selection.pickControl(check.at)
  else selection.pickProperty(check.at.property, false)
}
</script>

<template>
  <header class="bar">
    <div class="left">
      <RouterLink to="/" class="home" aria-label="All projects"><img src="/icon.svg" alt="" width="22" height="22" /></RouterLink>
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
      <button class="plain play" :aria-label="playback.playing ? 'Stop' : 'Play'" @click="playback.toggle">
        <IconPause v-if="playback.playing" /><IconPlay v-else />
      </button>
      <button class="plain icon" aria-label="Last frame" @click="playback.seek(playback.frames - 1)"><IconEnd /></button>
      <span class="clock figures" data-testid="clock">{{ clock }}</span>
      <span class="figures quiet">frame {{ playback.frame }} of {{ playback.frames }} · {{ playback.rate }} fps</span>
    </div>
    <div class="right">
      <NPopover
        trigger="click"
        placement="bottom-end"
        :show-arrow="false"
        scrollable
        style="max-width: 460px; max-height: 60vh"
        @update:show="(open: boolean) => open && lookDeeper()"
      >
        <template #trigger>
          <NButton v-show="doc.surveyed" size="small" quaternary :class="doc.checks.length ? worst : 'quiet'" data-testid="checks">
            {{ doc.checks.length === 1 ? '1 check' : `${doc.checks.length} checks` }}
          </NButton>
        </template>
        <p v-if="!doc.checks.length && !deep.length" class="fine">Nothing is wrong.</p>
        <ul v-else class="checks" aria-label="Checks">
          <li v-for="(check, i) in [...doc.checks, ...deep].slice(0, 200)" :key="i">
            <button class="plain" :class="check.severity" @click="show(check)">
              {{ check.severity === 'error' ? '✕' : '△' }} {{ check.sentence }}
            </button>
            <span class="fixes"
              ><button v-for="fix in check.fixes ?? []" :key="fix.label" class="plain fix" @click="mend(check, fix)">
                {{ fix.label }}
              </button></span
            >
          </li>
        </ul>
      </NPopover>
      <NTooltip
        ><template #trigger
          ><button class="plain icon" aria-label="Save this frame as SVG" @click="frameAsSVG"><IconFrame /></button></template
        >This frame as SVG: its shapes and texts</NTooltip
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
          ><button class="plain icon" aria-label="Keys" @click="workspace.keysShown = true"><IconKeys /></button></template
        >Keys · ?</NTooltip
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
.bar {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto minmax(0, 1fr);
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
.home {
  display: flex;
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
.fixes {
  display: flex;
  gap: 6px;
  padding: 0 0 4px 16px;
}
.checks .fix {
  width: auto;
  flex: none;
  padding: 0 8px;
  color: var(--brassText);
  border: 1px solid var(--line);
  border-radius: 9px;
  font-size: 11px;
}
.checks .fix:hover {
  border-color: var(--brass);
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
.clock {
  font-size: 15px;
  font-weight: 500;
  margin-left: 6px;
  min-width: 66px;
}
.checks {
  list-style: none;
  margin: 0;
  padding: 0;
  max-height: 320px;
  overflow: auto;
}
.checks button {
  text-align: left;
  padding: 4px;
  border-radius: 4px;
  width: 100%;
}
.checks button:hover {
  background: var(--picked);
}
.fine {
  margin: 4px;
}
.error {
  color: var(--oxblood);
}
.warning {
  color: var(--ochre);
}
</style>
