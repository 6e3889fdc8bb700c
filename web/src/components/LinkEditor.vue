<script setup lang="ts">
import { NSwitch } from 'naive-ui'
import { computed } from 'vue'
import IconTrash from '~icons/tabler/trash'
import { short } from '@/composables/format'
import type { Id, Link, Spec } from '@/core/types'
import { useDocument } from '@/stores/document'
import ValueField from './ValueField.vue'

/** One link, in its place under the property it drives. Of several items, all that follow the same source change together. */
const props = defineProps<{ link: Link; property: Spec; items: Id[] }>()
const document = useDocument()

const source = computed(() => document.spec(props.link.source.item, props.link.source.property))
const strip = computed(() => {
  const s = source.value
  if (!s) return 'the source was removed'
  const first = (list: number[], parts: string[] | undefined, component?: string): string => {
    const k = component ? (parts ?? []).indexOf(component) : 0
    return parts && !component && parts.length > 1 ? list.slice(0, 3).map(short).join(', ') : short(list[k] ?? 0)
  }
  const from = first(document.numbers(props.link.source.item, s), s.parts, props.link.source.component)
  const to = first(document.numbers(props.items[0] ?? '', props.property), props.property.parts, props.link.component)
  return `${from}${s.unit && ' ' + s.unit} → ${to}${props.property.unit && ' ' + props.property.unit}`
})
const counted = computed(() => source.value?.type !== 'text')

/** The links of all selected items that have the same source and fill the same component. */
const alike = computed(() =>
  props.items.flatMap((item) =>
    (document.state(item, props.property.key).links ?? [])
      .filter((l) => l.source.item === props.link.source.item && l.source.property === props.link.source.property && l.component === props.link.component)
      .map((l) => ({ item, link: l })),
  ),
)

function change(what: Partial<Link>): void {
  void document.operations(...alike.value.map(({ item, link }) => ({ op: 'link.set', item, property: props.property.key, link: { ...link, ...what } })))
}

function preview(what: Partial<Link>): void {
  void document.preview('operations', {
    ops: alike.value.map(({ item, link }) => ({ op: 'link.set', composition: document.compositionId, item, property: props.property.key, link: { ...link, ...what } })),
  })
}

function remove(): void {
  void document.operations(...alike.value.map(({ item, link }) => ({ op: 'link.remove', item, property: props.property.key, link: link.id })))
}
</script>

<template>
  <div class="link" :class="{ off: link.off }">
    <div class="line">
      <b>Follow</b>
      <span class="from">{{ document.nameOf(link.source) }}<template v-if="link.component"> → {{ link.component }}</template></span>
      <NSwitch size="small" :value="!link.off" aria-label="Link is on" @update:value="(on: boolean) => change({ off: !on })" />
      <button class="plain icon" :aria-label="`Remove the link from ${document.nameOf(link.source)}`" title="Remove the link" @click="remove"><IconTrash /></button>
    </div>
    <div v-if="counted" class="line">
      <label>gain <ValueField label="Gain" :value="link.gain" :step="0.1" @preview="(gain) => preview({ gain })" @commit="(gain) => change({ gain })" @cancel="document.cancelPreview" /></label>
      <label>offset <ValueField label="Offset" :value="link.offset" :step="1" @preview="(offset) => preview({ offset })" @commit="(offset) => change({ offset })" @cancel="document.cancelPreview" /></label>
      <span class="strip figures" :class="{ broken: !source }">{{ strip }}</span>
    </div>
  </div>
</template>

<style scoped>
.link { border: 1px solid var(--line); border-left: 2px solid var(--verdigris); border-radius: 4px; background: var(--sunk); padding: 4px 8px; margin-top: 3px; }
.link.off { border-left-color: var(--track); }
.line { display: flex; align-items: center; gap: 8px; min-height: 22px; font-size: 12px; }
.from { flex: 1; color: var(--verdigris); overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.off .from { color: var(--ink2); text-decoration: line-through; }
.icon { display: grid; place-items: center; font-size: 14px; color: var(--ink2); width: 20px; height: 20px; border-radius: 3px; }
.icon:hover { color: var(--oxblood); }
label { display: flex; align-items: center; gap: 4px; color: var(--ink2); white-space: nowrap; }
.strip { margin-left: auto; color: var(--verdigris); white-space: nowrap; overflow: hidden; text-overflow: ellipsis; }
.strip.broken { color: var(--oxblood); }
</style>
