<script setup lang="ts">
import { NSwitch, type DropdownOption } from 'naive-ui'
import { computed, shallowRef, watch } from 'vue'
import IconTrash from '~icons/tabler/trash'
import { linkOperations, useLinks } from '@/composables/links'
import { sentence } from '@/composables/notify'
import { core } from '@/core/client'
import type { Id, Link, Spec } from '@/core/types'
import { useDocument } from '@/stores/document'
import { usePlayback } from '@/stores/playback'
import AxisFields from './AxisFields.vue'
import ChoiceField from '@/components/shared/ChoiceField.vue'
import ValueField from '@/components/shared/ValueField.vue'
import MenuList from '@/components/shared/MenuList.vue'

/**
 * The editor of a link, on a property or on a row: who drives it, what is done to the number, and what the link does
 * to what is below it, in two columns of a fixed grid. What is particular to its kind, or to rows, stands in the slots.
 */
const props = defineProps<{
  link: Link
  property: Spec
  label: string // for screen readers
  called: string // in the names of its buttons
  menu: DropdownOption[]
  about: { item: Id; property: string; link: Id } | { spread: Id } // who it is, to ask which of its choices give nothing
  strip?: string // source value → target value
  broken?: boolean
  row?: boolean
}>()
const emit = defineEmits<{ preview: [what: Partial<Link>]; change: [what: Partial<Link>]; run: [key: string]; remove: [] }>()
const doc = useDocument()
const playback = usePlayback()
const links = useLinks()

const kind = computed(() => links.kind(props.link.kind))
const counted = computed(() => kind.value?.linear && doc.spec(props.link.source.item, props.link.source.property)?.type !== 'text')
/** A map or formula needs no gain, but another program may have scaled it. */
const scaled = computed(() => !kind.value?.linear && (props.link.gain !== 1 || props.link.offset !== 0 || props.link.offsets?.length))
const rate = computed(() => (props.link.seconds ? playback.rate : 1))
const spaces = [
  { label: 'Parent', value: '' },
  { label: 'Composition', value: 'world' },
]

/** The choices that change nothing where the link stands: the core says which. */
const nothing = shallowRef<string[]>([])
watch([() => doc.rested, () => props.link], async () => void (nothing.value = (await core.ask('void', props.about)).result ?? []), {
  immediate: true,
})
</script>

<template>
  <div
    class="link"
    :class="{ off: link.off, many: row }"
    role="group"
    tabindex="-1"
    :aria-label="label"
    @keydown.delete.self.stop.prevent="emit('remove')"
  >
    <div class="head">
      <b>{{ kind?.name }}</b>
      <span class="title"><slot name="title" /></span>
      <NSwitch size="small" :value="!link.off" aria-label="Link is on" @update:value="(on: boolean) => emit('change', { off: !on })" />
      <MenuList trigger="click" size="small" :options="menu" placement="bottom-end" @select="(key: string) => emit('run', key)"
        ><button class="plain icon" :aria-label="`Actions for ${called}`">⋯</button></MenuList
      >
      <button class="plain icon" :aria-label="`Delete ${called}`" title="Delete link" @click="emit('remove')"><IconTrash /></button>
    </div>
    <slot name="source" />
    <div class="grid">
      <slot name="members" />
      <template v-if="counted || scaled">
        <label class="cell"
          >Gain<ValueField
            label="Gain"
            :value="link.gain"
            :step="0.1"
            @preview="(gain) => emit('preview', { gain })"
            @commit="(gain) => emit('change', { gain })"
            @cancel="doc.cancelPreview"
        /></label>
        <div class="cell" :class="{ wide: !link.component && property.type.startsWith('point') }">
          Offset<AxisFields
            label="Offset"
            :link="link"
            :property="property"
            :offset="link.offset"
            :offsets="link.offsets"
            @preview="(what) => emit('preview', what)"
            @change="(what) => emit('change', what)"
          />
        </div>
        <span v-if="strip" class="cell wide strip figures" :class="{ broken }">{{ strip }}</span>
      </template>
      <div v-if="$slots.default" class="wide"><slot /></div>
      <slot name="stagger" />
      <div v-if="!property.jumps" class="cell">
        Mode<ChoiceField
          class="choice"
          size="tiny"
          :value="link.operation ?? ''"
          :options="linkOperations"
          label="What the link does"
          @update:value="(operation: Link['operation']) => emit('change', { operation })"
        />
      </div>
      <slot name="weight" />
      <label class="cell"
        >Delay<ValueField
          label="Delay"
          :value="(link.delay ?? 0) / rate"
          :min="0"
          :step="link.seconds ? 0.1 : 1"
          :unit="link.seconds ? 's' : 'f'"
          @preview="(d) => emit('preview', { delay: d * rate })"
          @commit="(d) => emit('change', { delay: d * rate })"
          @cancel="doc.cancelPreview"
      /></label>
      <div v-if="property.spaced" class="cell">
        Space<ChoiceField
          class="choice"
          size="tiny"
          :value="link.world ? 'world' : ''"
          :options="spaces"
          label="Space"
          @update:value="(space: string) => emit('change', { world: space === 'world' || undefined })"
        />
      </div>
      <p v-for="n in nothing" :key="n" class="wide nothing">{{ sentence(n) }}</p>
    </div>
  </div>
</template>

<style scoped src="./editor.css" />

<style scoped>
.link {
  border: 1px solid var(--line);
  border-left: 2px solid var(--verdigris);
  border-radius: 4px;
  background: var(--sunk);
  padding: 4px 8px 6px;
  margin-top: 3px;
  font-size: 12px;
}
.many {
  border-left: 4px double var(--verdigris);
}
.off {
  border-left-color: var(--track);
}
.head {
  display: flex;
  align-items: center;
  gap: 6px;
  min-height: 24px;
}
.title {
  flex: 1;
  display: flex;
  min-width: 0;
}
.title > :slotted(*) {
  min-width: 0;
}
.strip {
  color: var(--verdigris);
  overflow-wrap: anywhere;
}
.strip.broken {
  color: var(--oxblood);
}
.choice {
  width: 92px;
}
.nothing {
  margin: 0;
  color: var(--ochre);
}
</style>
