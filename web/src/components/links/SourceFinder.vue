<script setup lang="ts">
import { NCheckbox, NInput, NRadio, NRadioGroup } from 'naive-ui'
import { computed, nextTick, ref, shallowRef, useTemplateRef, watch } from 'vue'
import type { Ref } from '@/core/types'
import { useChoosing } from '@/composables/choosing'
import { useEnds } from '@/composables/ends'
import { useGatherables } from '@/composables/gatherables'
import { useDocument } from '@/stores/document'
import { useWiring } from '@/stores/wiring'
import ModalCard from '@/components/shared/ModalCard.vue'

/** Opened by L: type part of a source's name, Enter wires it to the properties that are selected. */
const doc = useDocument()
const wiring = useWiring()
const ends = useEnds()
const typed = ref('')
/**
 * What the new link does: give the source's value, add its movement from here on, or map it by stops. Several items may stand at different
 * values: to follow, they keep these where they can, as with a cable; to match is asked for.
 */
const how = ref<'follow' | 'match' | 'here' | 'map'>('match')
/** Several items are driven by one link, unless one for each is asked for. */
const single = ref(false)
const list = useTemplateRef<HTMLUListElement>('list')
const field = useTemplateRef<InstanceType<typeof NInput>>('field')
const most = 60

interface Found {
  full: string
  tag: string
  control: boolean
  ref?: Ref // of one
  list?: string // of many: the formula that gathers them
}

/** What the dialog is about, also while it fades away. */
const targets = shallowRef<Ref[]>([])
const targetType = computed(() => {
  const first = targets.value[0]
  const weight = first?.property.startsWith('weight:') // which is no property of its own before it was set
  return first && (first.component || weight ? 'number' : doc.spec(first.item, first.property)?.type)
})
const several = computed(() => new Set(targets.value.map((t) => t.item)).size > 1)
const what = computed(() => {
  const first = targets.value[0]
  return first ? doc.nameOf(first) + (targets.value.length > 1 ? ` and ${targets.value.length - 1} more` : '') : ''
})

/** Everything that fits, controls first; every word that was typed has to occur. */
const found = computed<Found[]>(() => {
  if (!wiring.finding) return []
  const words = typed.value.toLowerCase().split(/\s+/).filter(Boolean)
  const out: Found[] = []
  for (const id of doc.order) {
    const item = doc.items.get(id)
    if (!item) continue
    // Vertices are asked for where they are sought.
    for (const end of ends.endsOf(
      id,
      words.some((w) => w.startsWith('ver')),
    )) {
      const full = `${item.name}: ${end.name}`
      const control = end.spec.group === 'Controls'
      if ((!control || end.ref.component) && !words.length) continue
      if (!targetType.value || !wiring.fits(end.type, targetType.value, how.value === 'map' ? 'map' : 'follow')) continue
      if (targets.value.some((t) => t.item === id && t.property === end.ref.property)) continue
      if (words.every((w) => full.toLowerCase().includes(w))) out.push({ full, control, tag: end.tag, ref: end.ref })
    }
  }
  out.push(...lists(words))
  const rank = (f: Found): number => (f.control ? 0 : 2) + (f.ref?.component ? 1 : 0) + (f.list ? 0.5 : 0)
  return out.sort((a, b) => rank(a) - rank(b)).slice(0, most)
})

/** What of many fits: the mean of their values; of texts, the first. */
const { gatherable, ask } = useGatherables()
let asked = Promise.resolve()
function lists(words: string[]): Found[] {
  const type = targetType.value
  if (how.value === 'here' || how.value === 'map' || wiring.reattaching || !words.length || !type) return []
  return gatherable.value.flatMap((r) => {
    const by = r.type === 'text' ? 'first' : 'mean'
    const full = `${by} of ${r.full} (${r.count})`
    if (!wiring.fits(r.type, type) || !words.every((w) => full.toLowerCase().includes(w))) return []
    return [{ full, tag: r.tag, control: !!r.control, list: `${by}(${r.stored})` }]
  })
}

/** The field has the keys, whatever is chosen beside it. */
async function back(): Promise<void> {
  await nextTick()
  field.value?.focus()
}
watch([how, single], back)
watch(
  () => wiring.finding,
  (open) => {
    if (!open) return
    targets.value = open
    typed.value = ''
    single.value = false
    if (how.value === 'follow' || how.value === 'match') how.value = several.value ? 'follow' : 'match'
    asked = ask()
    void back()
  },
)

function close(): void {
  wiring.finding = null
  wiring.reattaching = null
}

async function choose(f: Found | undefined): Promise<void> {
  if (!f) return
  const wanted = targets.value
  const again = wiring.reattaching
  close()
  if (f.list) return void (await wiring.write(several.value && !single.value ? 'spread' : 'formula', wanted, f.list, false))
  if (!f.ref) return
  if (again) {
    const row = doc.spreads.find((s) => s.id === again.spread)
    if (row) {
      const { members: _, ...value } = row
      return void (await doc.operations({ op: 'spread.set', value: { ...value, link: { ...value.link, source: f.ref } } }))
    }
    const link = doc.state(again.target.item, again.target.property).links?.find((l) => l.id === again.link)
    if (link) await doc.operations({ op: 'link.set', ...again.target, link: { ...link, source: f.ref } })
    return
  }
  await wiring.link(f.ref, wanted, {
    kind: how.value === 'map' ? 'map' : undefined,
    fromHere: how.value === 'here',
    follow: how.value === 'match',
    single: single.value,
  })
}

const {
  at,
  keys: walk,
  parts,
} = useChoosing(
  typed,
  () => found.value,
  () => list.value,
  choose,
)
async function keys(event: KeyboardEvent): Promise<void> {
  if (event.key === 'Enter') {
    event.preventDefault()
    await asked // what is sought may be among it
  }
  await walk(event)
}
</script>

<template>
  <ModalCard :show="wiring.finding !== null" :title="targets.length ? `What should drive ${what}?` : 'Link'" :width="500" @close="close">
    <p v-if="!targets.length">Select a property on the Card (click its name), then press L.</p>
    <template v-else>
      <NInput
        ref="field"
        v-model:value="typed"
        autofocus
        placeholder="Search controls and properties"
        :input-props="{ 'aria-label': 'Find a source', ...parts.field.value }"
        @keydown="keys"
      />
      <NRadioGroup v-if="!wiring.reattaching" v-model:value="how" size="small" class="how" aria-label="What the link does">
        <template v-if="several"><NRadio value="follow">Follow</NRadio><NRadio value="match">Match its value</NRadio></template>
        <NRadio v-else value="match">Follow</NRadio>
        <NRadio value="here">Follow from here (relative)</NRadio><NRadio value="map">Map</NRadio>
      </NRadioGroup>
      <NCheckbox v-if="several && !wiring.reattaching" v-model:checked="single" size="small" class="single">A link for each item</NCheckbox>
      <ul v-show="found.length" :id="parts.list" ref="list" class="list" role="listbox" tabindex="-1" aria-label="Sources that fit">
        <li v-for="(f, i) in found" :key="f.full" v-bind="parts.entry(i)" @click="choose(f)" @pointerenter="at = i">
          <span class="tag figures">{{ f.tag }}</span><span>{{ f.full }}</span>
        </li>
      </ul>
      <p v-if="!found.length" class="quiet none" role="status">
        {{
          typed
            ? `No matching source named “${typed}”.`
            : 'There are no controls yet that fit. Add one with C, or type to search all properties.'
        }}
      </p>
    </template>
  </ModalCard>
</template>

<style scoped>
.how {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
  margin-top: 8px;
  white-space: nowrap;
}
.single {
  margin-top: 8px;
}
.list {
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
  max-height: min(300px, 100vh - 220px);
  overflow: auto;
}
li {
  display: flex;
  gap: 8px;
  align-items: center;
  min-height: 24px;
  padding: 3px 6px;
  border-radius: 4px;
  cursor: pointer;
}
li[aria-selected='true'] {
  background: var(--picked);
}
.tag {
  width: 32px;
  text-align: center;
  font-size: 11px;
  border: 1px solid var(--brass);
  color: var(--brassText);
  border-radius: 3px;
  flex: none;
}
.none {
  margin: 12px 6px 0;
}
</style>
