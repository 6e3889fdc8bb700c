<script setup lang="ts">
import { NButton, NPopover } from 'naive-ui'
import { computed, ref, shallowRef, watch } from 'vue'
import IconError from '~icons/tabler/circle-x'
import IconFine from '~icons/tabler/circle-check'
import IconTip from '~icons/tabler/bulb'
import IconWarning from '~icons/tabler/alert-triangle'
import { sentence } from '@/composables/notify'
import { core } from '@/core/client'
import type { Check } from '@/core/types'
import { typeAhead } from '@/composables/typingAhead'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'
import { useWiring } from '@/stores/wiring'
import { useWorkspace } from '@/stores/workspace'

/** How many problems there are, and the list of them with their fixes. */
const doc = useDocument()
const selection = useSelection()
const wiring = useWiring()
const workspace = useWorkspace()

const most = 200
/** What shows only over time is looked for when the list is opened. */
const deep = shallowRef<Check[]>([])
const open = ref(false)
const all = computed(() => [...doc.checks, ...deep.value])
const worst = computed(() => (all.value.some((c) => c.severity === 'error') ? 'error' : 'warning'))
const icon = computed(() => (!wrong.value ? IconFine : worst.value === 'error' ? IconError : IconWarning))
/** Where nothing is wrong, a tip is no problem. */
const wrong = computed(() => all.value.filter((c) => c.severity !== 'tip').length)
const counted = computed(() => (!wrong.value ? 'No problems' : wrong.value === 1 ? '1 problem' : `${wrong.value} problems`))
const looks = {
  error: { icon: IconError, label: 'Error' },
  warning: { icon: IconWarning, label: 'Warning' },
  tip: { icon: IconTip, label: 'Tip' },
}

async function lookDeeper(): Promise<void> {
  deep.value = (await core.ask('deep', null)).result ?? []
}

function opened(now: boolean): void {
  open.value = now
  if (now) void lookDeeper()
}

// What was found over time no longer holds after a change.
watch(
  () => doc.checks,
  () => (open.value ? void lookDeeper() : (deep.value = [])),
)

function mend(check: Check, fix: NonNullable<Check['fixes']>[number]): void {
  if (fix.ops) void doc.gesture('operations', { ops: fix.ops })
  else if (fix.together) void doc.gesture('one link', { targets: fix.together, links: fix.links ?? [] })
  else if (fix.reattach) {
    show(check)
    wiring.reattaching = { target: { item: check.at.item, property: check.at.property }, link: fix.reattach, spread: fix.spread }
    typeAhead()
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
  <NPopover
    trigger="click"
    placement="bottom-end"
    :show-arrow="false"
    scrollable
    style="max-width: 460px; max-height: 60vh"
    @update:show="opened"
  >
    <template #trigger>
      <NButton v-show="doc.surveyed" size="small" quaternary :class="wrong ? worst : 'quiet'" data-testid="checks">
        <component :is="icon" aria-hidden="true" />&nbsp;{{ counted }}
      </NButton>
    </template>
    <div role="dialog" aria-label="Problems">
      <p v-if="!wrong" class="fine">No problems found.</p>
      <ul v-if="all.length" class="list" aria-label="Problems">
        <li v-for="(check, i) in all.slice(0, most)" :key="i">
          <button class="plain" :class="check.severity" @click="show(check)">
            <component :is="looks[check.severity].icon" :aria-label="looks[check.severity].label" />
            {{ sentence(check.sentence) }}
          </button>
          <span class="fixes"
            ><button v-for="fix in check.fixes ?? []" :key="fix.label" class="plain fix" @click="mend(check, fix)">
              {{ fix.label }}
            </button></span
          >
        </li>
        <li v-if="all.length > most" class="quiet">and {{ all.length - most }} more</li>
      </ul>
      <button class="plain rehearse" @click="workspace.rehearsing = true">Rehearse the controls… (Shift R)</button>
    </div>
  </NPopover>
</template>

<style scoped>
.list {
  list-style: none;
  margin: 0;
  padding: 0;
  max-height: 320px;
  overflow: auto;
}
.list button {
  text-align: left;
  padding: 4px;
  border-radius: 4px;
  width: 100%;
}
.list button:hover {
  background: var(--picked);
}
.list svg {
  vertical-align: -2px;
}
.rehearse {
  color: var(--brassText);
  padding: 4px;
  min-height: 24px;
  border-radius: 4px;
}
.rehearse:hover {
  background: var(--picked);
}
.fixes {
  display: flex;
  gap: 6px;
  padding: 0 0 4px 16px;
}
.list .fix {
  width: auto;
  flex: none;
  padding: 0 8px;
  color: var(--brassText);
  border: 1px solid var(--line);
  border-radius: 9px;
  font-size: 11px;
}
.list .fix:hover {
  border-color: var(--brass);
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
.tip {
  color: var(--ink2);
}
</style>
