<script setup lang="ts">
import { computed } from 'vue'
import { useOpenSpan } from '@/composables/openSpan'
import { useSamples } from '@/composables/samples'
import { useDocument } from '@/stores/document'
import { useSelection } from '@/stores/selection'
import JackTag from '@/components/links/JackTag.vue'
import PinToggle from '@/components/shared/PinToggle.vue'
import PinTrack from './PinTrack.vue'
import SpanStrip from './SpanStrip.vue'

/** At the end of the Desk: the pins that properties of the selected items have of their own. */
const doc = useDocument()
const selection = useSelection()
const most = 60

const rows = computed(() =>
  selection.items
    .flatMap((item) =>
      Object.entries(doc.statesOf(item.id))
        .filter(([key, state]) => state.pins?.length && !item.controls?.some((c) => c.id === key))
        .flatMap(([key]) => {
          const spec = doc.spec(item.id, key)
          return spec ? [{ item, spec, ref: { item: item.id, property: key } }] : []
        }),
    )
    .slice(0, most),
)
const span = useOpenSpan(() => rows.value.map((r) => r.item.id))
const samples = useSamples(() => [...new Set(rows.value.map((r) => r.item.id))])
</script>

<template>
  <template v-if="rows.length">
    <div class="head">Pins elsewhere</div>
    <div class="head track" />
    <template v-for="r in rows" :key="r.item.id + r.spec.key">
      <div class="row" :data-elsewhere="`${r.item.name}: ${r.spec.name}`">
        <JackTag :jack="{ refs: [r.ref], type: r.spec.type, name: r.spec.name }" :tag="r.spec.tag" />
        <span class="name" :title="`${r.item.name}: ${r.spec.name}`">{{ r.item.name }}: {{ r.spec.name }}</span>
        <PinToggle :refs="[r.ref]" :name="r.spec.name" always />
      </div>
      <PinTrack :item="r.item.id" :spec="r.spec" :samples="samples" />
      <SpanStrip v-if="span?.item === r.item.id && span.property === r.spec.key" v-bind="span" />
    </template>
  </template>
</template>

<style scoped>
.head {
  grid-column: 1;
  height: 28px;
  padding: 6px 12px 0;
  font: 600 12px var(--face-heading);
  color: var(--ink2);
  background: var(--sunk);
  border-bottom: 1px solid var(--line);
  border-right: 1px solid var(--line);
}
.track {
  grid-column: 2;
  border-right: 0;
}
.row {
  grid-column: 1;
  display: grid;
  grid-template-columns: 46px minmax(0, 1fr) 24px;
  align-items: center;
  gap: 6px;
  min-height: 26px;
  padding: 0 8px 0 12px;
  border-bottom: 1px solid var(--line);
  border-right: 1px solid var(--line);
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
