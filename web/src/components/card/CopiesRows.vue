<script setup lang="ts">
import { NButton } from 'naive-ui'
import { computed } from 'vue'
import type { Item, Spec } from '@/core/types'
import { useDocument } from '@/stores/document'
import { useWiring } from '@/stores/wiring'
import { useItemCommands } from '@/composables/itemCommands'
import ChoiceField from '@/components/shared/ChoiceField.vue'
import JackTag from '@/components/links/JackTag.vue'
import { copySpecs } from '@/composables/ends'
import RosterLinkEditor from '@/components/links/RosterLinkEditor.vue'
import ValueField from '@/components/shared/ValueField.vue'

/** What copies have besides properties: their limit, their path, and what drives each of them. */
const props = defineProps<{ item: Item }>()
const doc = useDocument()
const wiring = useWiring()
const commands = useItemCommands()

const limit = computed(() => props.item.copies?.limit || doc.catalogue.copies.usual)
const paths = computed(() => [
  { label: 'none', value: '' },
  ...[...doc.items.values()].filter((i) => i.kind === 'path').map((i) => ({ label: i.name, value: i.id })),
])
/** Whether they are arranged along the path. */
const along = computed(() => {
  const spec = doc.spec(props.item.id, 'copiesArrangement')
  return spec?.options?.[doc.numbers(props.item.id, spec)[0] ?? 0] === 'path'
})
const set = (what: Partial<NonNullable<Item['copies']>>): void =>
  void doc.operations({ op: 'item.copies', item: props.item.id, copies: { ...props.item.copies, ...what } })

/** What can be driven of each copy. */
const specs = computed(() => copySpecs(doc))
const rows = (key: string) => doc.spreads.filter((s) => s.roster.kind === 'copies' && s.roster.item === props.item.id && s.property === key)
/** The first copy stands for all of them, where a cable is dropped and where links are edited. */
const first = computed(() => `${props.item.id}~1`)
const at = (key: string): string => `${first.value}/${key}`

/** What a new formula on a property begins with. */
const begin: Record<string, string> = {
  position: 'below + [0, 40 * wave(time / 2s - share), 0]',
  rotation: 'below + index * 10',
  scale: 'below * mix(1, 0.4, share)',
  opacity: 'below * mix(1, 0.2, share)',
  tint: 'hsl(360 * index / count, 0.6, 0.5)',
  tintStrength: '100',
  copyLate: 'index * 3f',
}

async function drive(spec: Spec): Promise<void> {
  const property = spec.key
  if (!(await doc.gesture('spread', { targets: [], copies: { item: props.item.id, property }, text: begin[property] ?? 'below' }))) return
  wiring.editing = at(property)
}
</script>

<template>
  <div class="row">
    <label class="name" for="most-copies">limit</label>
    <ValueField
      id="most-copies"
      label="Limit of copies"
      :value="limit"
      :step="1"
      :min="1"
      :max="doc.catalogue.copies.most"
      @commit="(x) => set({ limit: Math.round(x) })"
    />
  </div>
  <div v-if="along" class="row">
    <span class="name">along the path</span>
    <ChoiceField
      class="path"
      size="tiny"
      :value="item.copies?.along ?? ''"
      :options="paths"
      label="The path that copies stand along"
      @update:value="(along: string) => set({ along })"
    />
  </div>
  <div class="row">
    <NButton size="tiny" @click="commands.make('break up', { item: item.id })">Break up into items</NButton>
  </div>
  <h3>Each copy</h3>
  <template v-for="spec in specs" :key="spec.key">
    <div class="row each" :data-each="spec.key">
      <JackTag
        :jack="{ refs: [{ item: first, property: spec.key }], type: spec.type, name: `${spec.name} of each copy` }"
        :tag="spec.tag"
        :driven="rows(spec.key).length > 0"
      />
      <span class="name">{{ spec.name }}</span>
      <button
        v-for="(row, n) in rows(spec.key).slice(-1)"
        :key="n"
        class="plain chip"
        :aria-expanded="wiring.editing === at(spec.key)"
        :title="`Driven by ${row.name}. Click to edit.`"
        @click="wiring.editing = wiring.editing === at(spec.key) ? null : at(spec.key)"
      >
        {{ rows(spec.key).length > 1 ? `${rows(spec.key).length} links` : (row.link.kind as string) }}
      </button>
      <button class="plain action" :aria-label="`Drive ${spec.name} of each copy`" @click="drive(spec)">
        {{ rows(spec.key).length ? '+ Formula' : 'Formula' }}
      </button>
    </div>
    <div v-if="wiring.editing === at(spec.key)" class="links">
      <RosterLinkEditor v-for="row in [...rows(spec.key)].reverse()" :key="row.id" :spread="row" :property="spec" :items="[]" />
    </div>
  </template>
</template>

<style scoped src="./parts.css" />

<style scoped>
.each {
  padding-left: 12px;
}
.path {
  width: 120px;
}
h3 {
  font-size: 12px;
  color: var(--ink2);
  padding: 6px 12px 2px;
}
.chip {
  border: 1px solid var(--verdigris);
  color: var(--verdigris);
  background: var(--verdigrisSoft);
  border-radius: 9px;
  padding: 0 7px;
  font-size: 11px;
  line-height: 16px;
}
.action {
  min-height: 24px;
}
.links {
  padding: 2px 8px 6px 20px;
}
</style>
