<script setup lang="ts">
import { computed, shallowRef, watch } from 'vue'
import { short } from '@/composables/format'
import { useLinks, weightKey } from '@/composables/links'
import { message } from '@/composables/notify'
import { core } from '@/core/client'
import type { Edit, Id, Link, Spec } from '@/core/types'
import { typing } from '@/composables/typingAhead'
import { useDocument } from '@/stores/document'
import { useGraphs } from '@/stores/graphs'
import { useWiring } from '@/stores/wiring'
import JackTag from './JackTag.vue'
import { linkKinds } from './linkKinds'
import LinkFrame from './LinkFrame.vue'
import ValueField from '@/components/shared/ValueField.vue'

/** One link, in its place under the property it drives. Of several items, all that have the same source change together. */
const props = defineProps<{ link: Link; property: Spec; items: Id[] }>()
const doc = useDocument()
const wiring = useWiring()
const graphs = useGraphs()
const links = useLinks()

const source = computed(() => doc.spec(props.link.source.item, props.link.source.property))
const strip = computed(() => {
  const s = source.value
  if (!s) return 'Source missing'
  const first = (list: number[], parts: string[] | undefined, component?: string): string => {
    const k = component ? (parts ?? []).indexOf(component) : 0
    return parts && !component && parts.length > 1 ? list.slice(0, 3).map(short).join(', ') : short(list[k] ?? 0)
  }
  const from = first(doc.numbers(props.link.source.item, s), s.parts, props.link.source.component)
  const to = first(doc.numbers(props.items[0] ?? '', props.property), props.property.parts, props.link.component)
  return `${from}${s.unit && ' ' + s.unit} → ${to}${props.property.unit && ' ' + props.property.unit}`
})
const from = computed(() => links.from(props.link))
const kind = computed(() => links.kind(props.link.kind))
const row = computed(() => linkKinds[props.link.kind])
const targets = computed(() => [{ item: props.items[0] ?? '', property: props.property.key, component: props.link.component }])

/** A formula goes to all selected items that have one in this place. */
const writeAll = (text: string): void => void doc.gesture('formula', { targets: all.value, text, link: props.link.id })

/** This link, and those of the other selected items that are edited together with it: the core says which. */
const others = shallowRef<{ item: Id; link: Link }[]>([])
watch(
  [() => props.link.id, () => props.items, () => doc.rested],
  async () => {
    if (props.items.length < 2) return void (others.value = [])
    const { result } = await core.ask('alike', { items: props.items, property: props.property.key, link: props.link.id })
    others.value = (result ?? []).slice(1)
  },
  { immediate: true },
)
const alike = computed(() => [{ item: props.items[0] ?? '', link: props.link }, ...others.value])
const all = computed(() => alike.value.map(({ item }) => ({ item, property: props.property.key, component: props.link.component })))
const ops = (what: Partial<Link>): Edit[] => links.altered(alike.value, props.property.key, what)
const change = (what: Partial<Link>): void => void doc.operations(...ops(what))
const preview = (what: Partial<Link>): void => void doc.preview('operations', { ops: doc.here(...ops(what)) })

// The weight is a property of its own, which can be driven.
const ownWeight = computed(() => weightKey(props.link))
const weightSpec = computed(() => doc.items.get(props.items[0] ?? '')?.specs?.find((s) => s.key === ownWeight.value))
const weight = computed(() => (weightSpec.value ? (doc.numbers(props.items[0] ?? '', weightSpec.value)[0] ?? 100) : 100))
const weightRefs = computed(() => alike.value.map(({ item, link }) => ({ item, property: weightKey(link) })))
const weightDriven = computed(() => (doc.state(props.items[0] ?? '', ownWeight.value).links?.length ?? 0) > 0)
const setWeight = (how: 'preview' | 'gesture', value: number): void => void doc[how]('set', { targets: weightRefs.value, value })

const stack = computed(() => doc.state(props.items[0] ?? '', props.property.key).links ?? [])
const place = computed(() => stack.value.findIndex((l) => l.id === props.link.id))

const vertex = computed(() => props.property.group === 'Vertices' && doc.items.get(props.items[0] ?? '')?.path)

const menu = computed(() => [
  { key: 'fit', label: 'Match ranges', disabled: !kind.value?.linear },
  { key: 'map', label: 'Convert to map', disabled: !kind.value?.linear },
  { key: 'graph', label: 'Open as a graph', disabled: !!props.link.graph },
  { key: 'round', label: 'Reverse direction', disabled: !kind.value?.linear && !props.link.graph },
  vertex.value
    ? { key: 'spread', label: 'Apply to all vertices' }
    : {
        key: 'spread',
        label: props.items.length < 2 ? 'Apply to all selected' : `Apply to all ${props.items.length} selected`,
        disabled: props.items.length < 2,
      },
  { key: 'weight', label: 'Drive weight with…' },
  { key: 'copy', label: 'Copy link' },
  { key: 'up', label: 'Move up', disabled: place.value >= stack.value.length - 1 },
  { key: 'down', label: 'Move down', disabled: place.value < 1 },
  { key: 'seconds', label: props.link.seconds ? 'Show delay in frames' : 'Show delay in seconds' },
])

function run(key: string): void {
  const target = { item: props.items[0] ?? '', property: props.property.key }
  const acts: Record<string, () => unknown> = {
    fit: () => doc.gesture('fit ranges', { targets: all.value, link: props.link.id }),
    map: () => doc.gesture('to map', { targets: all.value, link: props.link.id }),
    graph: () => graphs.openLink({ target, link: props.link.id }),
    round: () => doc.gesture('turn round', { target, link: props.link.id }),
    spread: () =>
      doc.gesture('spread', {
        targets: props.items.map((item) => ({ item, property: props.property.key, component: props.link.component })),
        link: props.link.id,
      }),
    weight: typing(() => (wiring.finding = weightRefs.value)),
    copy: () => {
      wiring.copied = props.link
      message.info('Link copied. Paste it from the menu of any property.', { duration: 2500 })
    },
    up: () => doc.operations({ op: 'link.move', ...target, link: props.link.id, at: place.value + 1 }),
    down: () => doc.operations({ op: 'link.move', ...target, link: props.link.id, at: place.value - 1 }),
    seconds: () => change({ seconds: !props.link.seconds }),
  }
  void acts[key]?.()
}

function remove(): void {
  void doc.operations(
    ...alike.value.map(({ item, link }) => ({ op: 'link.remove' as const, item, property: props.property.key, link: link.id })),
  )
}
</script>

<template>
  <LinkFrame
    :link="link"
    :property="property"
    :label="`Link from ${from}`"
    :called="`the link from ${from}`"
    :menu="menu"
    :about="{ item: items[0] ?? '', property: property.key, link: link.id }"
    :strip="strip"
    :broken="!source"
    @preview="preview"
    @change="change"
    @run="run"
    @remove="remove"
  >
    <template #title>
      <span class="from"
        >{{ from }}<template v-if="link.component"> → {{ link.component }}</template></span
      >
    </template>
    <component
      :is="row.writer"
      v-if="row.writer"
      :target="{ item: items[0] ?? '', property: property.key, component: link.component }"
      :link="link.id"
      :name="property.name"
      @preview="(text: string) => doc.preview('formula', { targets, text, link: link.id })"
      @apply="writeAll"
    />
    <component
      :is="row.editor"
      v-else-if="row.editor"
      :link="link"
      :property="property"
      :items="alike.map((a) => a.item)"
      @preview="preview"
      @change="change"
    />
    <template #weight>
      <label class="cell" title="Link weight. It can be driven like any property.">
        Weight
        <span class="weight"
          ><JackTag :jack="{ refs: weightRefs, type: 'number', name: 'weight' }" tag="%" :driven="weightDriven" /><ValueField
            label="Weight"
            :value="weight"
            :min="0"
            :max="100"
            :driven="weightDriven"
            unit="%"
            @preview="(w) => setWeight('preview', w)"
            @commit="(w) => setWeight('gesture', w)"
            @cancel="doc.cancelPreview"
        /></span>
      </label>
    </template>
  </LinkFrame>
</template>

<style scoped src="./editor.css" />

<style scoped>
.weight {
  display: flex;
  align-items: center;
}
</style>
