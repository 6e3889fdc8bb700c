<script setup lang="ts">
import { computed, watch } from 'vue'
import { useBringing } from '@/composables/bringing'
import type { Id, Table } from '@/core/types'
import { useDocument } from '@/stores/document'

/** What a table came from, how many rows it has, and the way to a newer file. */
const props = defineProps<{ item: Id; table?: Table }>()
const doc = useDocument()
const bringing = useBringing()
const replace = (): void => bringing.choose({ target: props.item, sort: 'table' })

watch(
  () => props.item,
  (item, _, stop) => stop(doc.watchDerived(item, ['rowsCount'])),
  { immediate: true },
)
const about = computed(() => {
  const spec = doc.spec(props.item, 'rowsCount')
  const rows = (spec && doc.numbers(props.item, spec)[0]) ?? 0
  return [props.table?.file, rows === 1 ? '1 row' : `${rows} rows`].filter(Boolean).join(', ')
})
</script>

<template>
  <div class="row file">
    <span class="quiet space">{{ table ? about : 'No table' }}</span>
    <button
      class="plain action"
      title="A newer file, in place of this one: columns of the same name go on, with all that reads them"
      @click="replace"
    >
      {{ table ? 'Replace…' : 'Choose a table…' }}
    </button>
  </div>
</template>

<style scoped src="./parts.css" />
