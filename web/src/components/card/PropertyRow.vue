<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import IconLimits from '~icons/tabler/arrow-autofit-width'
import IconLock from '~icons/tabler/lock'
import { inWords, limitsOf } from '@/composables/limits'
import { useLinks } from '@/composables/links'
import { drivenBy } from '@/composables/roster'
import type { Id, Ref, RosterLink, Spec } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'
import { useWiring } from '@/stores/wiring'
import JackTag from '@/components/links/JackTag.vue'
import LinkEditor from '@/components/links/LinkEditor.vue'
import PinToggle from '@/components/shared/PinToggle.vue'
import PropertyMenu from './PropertyMenu.vue'
import PropertyValue from './PropertyValue.vue'
import RosterLinkEditor from '@/components/links/RosterLinkEditor.vue'

/** One property of the selected items: jack, name, source, value, pin; its links below it. */
const props = defineProps<{ spec: Spec; items: Id[] }>()
const doc = useDocument()
const selection = useSelection()
const wiring = useWiring()
const linking = useLinks()
const unfolded = ref(false)

const refs = computed<Ref[]>(() => props.items.map((item) => ({ item, property: props.spec.key })))
const first = computed(() => props.items[0] as Id)
const state = computed(() => doc.state(first.value, props.spec.key))
const limits = computed(() => limitsOf(state.value))
/** The limits of one component alone; the row of the property reads them out. */
const held = (part: string): string => inWords(state.value.limits?.[part] ?? {})
const locked = computed(() => limits.value.includes('ocked at') && !limits.value.includes('limited'))
const links = computed(() => state.value.links ?? [])
const wired = computed(() => doc.statesAt(refs.value).filter((s) => s.links?.length).length)
const picked = computed(() => selection.properties.includes(props.spec.key))
const posed = computed(() => doc.poses.some((p) => p.property === props.spec.key && props.items.includes(p.item)))
const drives = computed(() => doc.drives[first.value + '/' + props.spec.key] ?? 0)
const spreads = computed(() => doc.spreadsOn(first.value, props.spec.key))
const editing = computed(
  () =>
    wiring.editing === first.value + '/' + props.spec.key ||
    (wiring.editedRows.item !== first.value && spreads.value.some((s) => wiring.editedRows.ids.has(s.id))),
)
watch([editing, first], ([open, item]) => void (open && (wiring.editing = item + '/' + props.spec.key)), { immediate: true })
const chip = computed(() => {
  const top = links.value[links.value.length - 1]
  if (!top) return spreads.value.length ? 'row' : ''
  return linking.chip(top)
})
/** The same in full: a source with its item, a row by its name. */
const source = computed(() => {
  const top = links.value[links.value.length - 1]
  if (!top) return spreads.value.length ? rowSource(spreads.value.at(-1) as RosterLink) : ''
  return top.source.item && doc.items.has(top.source.item) && !chip.value.endsWith('✕') ? doc.nameOf(top.source) : chip.value
})

/** What drives a row: the source of its link, or, where that has none, its name. */
const rowSource = (s: RosterLink): string =>
  s.link.source.item ? `${doc.nameOf(s.link.source)}, row of ${s.members?.length ?? 0}` : s.name

function partRefs(component: string): Ref[] {
  return refs.value.map((r) => ({ ...r, component }))
}

const partDriven = (component: string): boolean =>
  links.value.some((l) => !l.off && (!l.component || l.component === component)) ||
  spreads.value.some((s) => !s.link.off && [props.spec.key, `${props.spec.key}.${component}`].includes(drivenBy(s, refs.value[0] as Ref)))

function toggleEditor(): void {
  wiring.editing = editing.value ? null : first.value + '/' + props.spec.key
}
</script>

<template>
  <div class="row" :class="{ picked, posed }" :data-property="spec.key">
    <div class="line">
      <JackTag
        :jack="{ refs, type: spec.type, name: spec.name, readOnly: spec.readOnly }"
        :tag="spec.tag"
        :driven="wired > 0 || spreads.length > 0"
        :drives="drives"
      />
      <button
        class="plain name"
        :aria-pressed="picked"
        :title="`Select ${spec.name}, then press L to link it`"
        @click="selection.pickProperty(spec.key, $event.shiftKey || $event.ctrlKey)"
      >
        {{ spec.name }}
      </button>
      <button
        v-if="spec.parts"
        class="plain fold"
        :aria-label="`Components of ${spec.name}`"
        :aria-expanded="unfolded"
        @click="unfolded = !unfolded"
      >
        {{ unfolded ? '▾' : '▸' }}
      </button>
      <span v-if="limits" class="limits" :title="limits">
        <IconLock v-if="locked" :aria-label="limits" /><IconLimits v-else :aria-label="limits" />
      </span>
      <span class="space" />
      <PropertyValue :spec="spec" :items="items" :driven="wired > 0 || spreads.length > 0" />
      <PropertyMenu :spec="spec" :refs="refs" :wired="wired > 0 || spreads.length > 0" />
      <span v-if="spec.readOnly" class="pin" />
      <PinToggle v-else :refs="refs" :name="spec.name" />
    </div>
    <!-- What drives it has a line of its own, and is read whole. -->
    <span v-if="chip" class="source">
      <button
        class="plain chip"
        :class="{ broken: chip === 'removed' || chip.endsWith('✕') }"
        :aria-expanded="editing"
        :title="`Driven by ${source}${links.length > 1 ? ` (+${links.length - 1})` : ''}. Click to edit links.`"
        @click="toggleEditor"
      >
        {{ source }}<template v-if="wired > 1"> ×{{ wired }}</template>
      </button>
    </span>
  </div>
  <template v-if="unfolded">
    <div
      v-for="part in [...(spec.parts ?? []), ...(spec.worked ?? [])]"
      :key="part"
      class="row part"
      :class="{ picked: selection.properties.includes(spec.key + '.' + part) }"
      :data-property="spec.key + '.' + part"
    >
      <JackTag
        :jack="{ refs: partRefs(part), type: 'number', name: `${spec.name}.${part}`, readOnly: spec.readOnly }"
        tag="n"
        :driven="partDriven(part)"
      />
      <button class="plain name" @click="selection.pickProperty(spec.key + '.' + part, $event.shiftKey || $event.ctrlKey)">
        {{ part }}
      </button>
      <span v-if="held(part)" class="limits" :title="held(part)" aria-hidden="true">
        <IconLock v-if="held(part).startsWith('locked')" /><IconLimits v-else />
      </span>
      <span class="space" />
      <PropertyValue
        v-if="!spec.worked?.includes(part) && spec.type !== 'colour'"
        :spec="spec"
        :items="items"
        :part="part"
        :driven="partDriven(part)"
      />
      <PropertyMenu :spec="spec" :refs="partRefs(part)" :wired="partDriven(part)" :part="part" />
      <PinToggle v-if="!spec.readOnly" :refs="refs" :name="spec.name" /><span v-else class="pin" />
    </div>
  </template>
  <div v-if="editing && (links.length || spreads.length)" class="links">
    <LinkEditor v-for="link in [...links].reverse()" :key="link.id" :link="link" :property="spec" :items="items" />
    <RosterLinkEditor v-for="spread in [...spreads].reverse()" :key="spread.id" :spread="spread" :property="spec" :items="items" />
  </div>
</template>

<style scoped>
.row {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0 2px;
  min-height: 26px;
  padding: 0 4px 0 12px;
}
.line {
  flex: 0 0 100%;
  min-width: 0;
  display: flex;
  align-items: center;
  gap: 0 2px;
}
.row.picked {
  background: var(--picked);
}
.row.posed {
  box-shadow: inset 3px 0 var(--ochre);
}
.part {
  padding-left: 28px;
}
.name {
  white-space: nowrap;
  text-align: left;
  border-radius: 3px;
  padding: 2px 4px;
  min-width: 30px;
  min-height: 24px;
  overflow: hidden;
  text-overflow: ellipsis;
  flex: none;
  max-width: 118px;
}
.name:hover {
  color: var(--brassText);
}
.fold {
  font-size: 11px;
  color: var(--ink2);
  width: 24px;
  height: 24px;
  flex: none;
  margin: 0 -2px;
}
.source {
  flex: 0 0 100%;
  display: flex;
  padding: 0 0 3px 34px;
}
.chip {
  max-width: 100%;
  overflow: clip visible;
  text-overflow: ellipsis;
  white-space: nowrap;
  border: 1px solid var(--verdigris);
  color: var(--verdigris);
  background: var(--verdigrisSoft);
  border-radius: 12px;
  padding: 0 9px;
  font-size: 11px;
  line-height: 22px;
}
.chip.broken {
  border-color: var(--oxblood);
  color: var(--oxblood);
}
.limits {
  display: flex;
  color: var(--ochre);
  font-size: 13px;
}
.space {
  flex: 1;
}
.pin {
  width: 24px;
  flex: none;
}
.links {
  padding: 2px 8px 6px 20px;
}
</style>
