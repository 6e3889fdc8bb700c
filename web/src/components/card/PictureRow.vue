<script setup lang="ts">
import { useBringing } from '@/composables/bringing'
import type { Item } from '@/core/types'
import { api } from '@/net/api'
import { useDocument } from '@/stores/document'

/** The pictures that an item shows. */
defineProps<{ item: Item }>()
const doc = useDocument()
const bringing = useBringing()
/** How many are shown at most; the count says the rest. */
const shown = 4
</script>

<template>
  <div class="row">
    <span class="thumbs">
      <template v-for="(f, i) in (item.frames ?? []).slice(0, shown)" :key="i">
        <i v-if="f.part" class="thumb part figures" :title="`Frame ${i + 1}: a part of a picture`">{{ i + 1 }}</i>
        <img v-else class="thumb" :src="api.asset(f.asset)" :alt="`Frame ${i + 1}`" loading="lazy" />
      </template>
      <span v-if="!item.frames?.length" class="quiet">No picture</span>
      <span v-else-if="item.frames.length > shown" class="quiet">+{{ item.frames.length - shown }}</span>
    </span>
    <button
      v-if="item.frames?.length === 1 && !item.frames[0]?.part && ['picture', 'flipbook'].includes(item.kind)"
      class="plain action"
      title="Make a flipbook of a picture that holds many frames"
      @click="bringing.question.value = { files: [], cut: item.id }"
    >
      Cut…
    </button>
    <button class="plain action" @click="bringing.choose({ target: item.id })">
      {{ item.frames?.length ? 'Replace…' : 'Choose pictures…' }}
    </button>
    <button v-if="item.frames?.length" class="plain action" @click="doc.operations({ op: 'item.frames', item: item.id, frames: [] })">
      Remove
    </button>
  </div>
</template>

<style scoped>
.row {
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 2px 12px 2px 50px;
  min-height: 28px;
  font-size: 12px;
}
.thumbs {
  display: flex;
  gap: 3px;
  flex: 1;
  min-width: 0;
  align-items: center;
  overflow: hidden;
}
.thumb {
  width: 22px;
  height: 22px;
  object-fit: contain;
  border: 1px solid var(--line);
  border-radius: 2px;
  background: var(--sunk);
  flex: none;
}
.part {
  display: grid;
  place-items: center;
  font-size: 11px;
  font-style: normal;
  color: var(--ink2);
}
.action {
  color: var(--brassText);
  white-space: nowrap;
  padding: 0 4px;
  border-radius: 3px;
}
.action:hover {
  background: var(--picked);
}
</style>
