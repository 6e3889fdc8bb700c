<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import type { EditorView } from '@codemirror/view'
import { computed, nextTick, onBeforeUnmount, onMounted, shallowRef, useTemplateRef, watch } from 'vue'
import { closing, makeEditor, replaceText, show } from '@/composables/formulaEditor'
import { useGatherables } from '@/composables/gatherables'
import { closers } from '@/composables/hand'
import { core } from '@/core/client'
import type { FormulaView, Id, Ref } from '@/core/types'
import { useDocument } from '@/stores/document'
import { usePlayback } from '@/stores/playback'
import { useWiring } from '@/stores/wiring'
import { useWorkspace } from '@/stores/workspace'
import FormulaReading from './FormulaReading.vue'
import FunctionList from './FunctionList.vue'

/** A formula in its place: references as chips, the value of each line at this frame, what is wrong with its fixes. */
const props = defineProps<{ target: Ref; link?: Id; spread?: Id; name: string }>()
const emit = defineEmits<{ preview: [text: string]; apply: [text: string] }>()
const doc = useDocument()
const playback = usePlayback()
const wiring = useWiring()
const workspace = useWorkspace()
const host = useTemplateRef<HTMLDivElement>('host')
const answer = shallowRef<FormulaView>({ text: '', problems: [], lines: [], type: '', words: '' })
const me = computed(() => props.link ?? props.spread ?? '')
const wide = computed(() => workspace.wide === me.value)
let view: EditorView | null = null
const { gatherable, ask: askGatherables } = useGatherables()
let kept = '' // the text as it is in the document
let recalled = 0

const ask = async (text?: string, steps = 0): Promise<FormulaView> =>
  (await core.ask('formula', { target: props.target, link: props.link, spread: props.spread, text, steps })).result ?? {
    text: text ?? '',
    problems: [],
    lines: [],
    type: '',
    words: '',
  }

/** Asks what there is to say of the text; of another frame of the same text and doc, the curve is the same. */
async function look(frameOnly = false): Promise<void> {
  if (!view) return
  const text = view.state.doc.toString()
  const said = await ask(text, frameOnly ? 0 : 80)
  if (view?.state.doc.toString() !== text) return // typed on meanwhile
  answer.value = frameOnly ? { ...said, curve: answer.value.curve } : said
  show(view, said)
}

const lookSoon = useDebounceFn(async (text: string) => {
  await look()
  if (text !== kept && view?.state.doc.toString() === text && !answer.value.problems.some((p) => !p.warning)) emit('preview', text)
}, 120)

function apply(): void {
  const text = view?.state.doc.toString() ?? ''
  if (text === kept) return
  kept = text
  workspace.remember(text)
  emit('apply', text)
}

function mend(fix: { at: number; end: number; text: string }): void {
  if (view) replaceText(view, fix.text, fix.at, fix.end)
  view?.focus()
}

function insert(text: string): void {
  if (!view) return
  const { from, to } = view.state.selection.main
  replaceText(view, text, from, to)
  view.focus()
}

const quoted = (name: string): string => (/[:{}.~@*]/.test(name) ? `"${name.replaceAll('"', "'")}"` : name)
const written = (item: Id, property: string, part?: string): string =>
  `${quoted(doc.items.get(item)?.name ?? '')}: ${doc.spec(item, property)?.name ?? property}${part ? '.' + part : ''}`

function references() {
  const vertex = doc.spec(props.target.item, props.target.property)?.group === 'Vertices' ? 'vertex' : ''
  const out = [
    ...['self', 'prev', 'next', 'first', 'last'].map((who) => who + ': ' + vertex),
    'parent: ',
    ...(props.spread ? ['partner: ', 'outer self: ', 'outer prev: '] : []),
  ].map((label) => ({ label, detail: 'of where it stands', boost: -1, apply: label.endsWith(' ') ? undefined : closing }))
  for (const id of doc.order.slice(0, 2000)) {
    const item = doc.items.get(id)
    for (const s of item ? doc.specsOf(item) : []) {
      const control = s.group === 'Controls'
      if (control || doc.order.length < 300)
        out.push({ label: written(id, s.key), apply: closing, detail: s.unit || s.type, boost: control ? 2 : 0 })
    }
  }
  for (const r of gatherable.value) out.push({ label: r.full, apply: closing, detail: `list of ${r.count}`, boost: r.control ? 1 : -1 })
  return out
}

onMounted(async () => {
  if (!host.value) return
  const words = {
    functions: [
      ...doc.catalogue.functions.map((f) => ({ label: f.name, detail: f.usage.slice(f.name.length), info: f.help, apply: f.name + '(' })),
      ...[...doc.catalogue.names, 'else', 'and', 'or', 'not'].map((label) => ({ label, boost: -1 })),
    ],
    references,
  }
  const [first] = await Promise.all([ask(), askGatherables()])
  kept = first.text
  if (!host.value) return
  view = makeEditor(
    host.value,
    first.text,
    words,
    {
      change: (text) => void lookSoon(text),
      leave: apply,
      apply: () => {
        apply()
        if (wide.value) void widen(false)
      },
      escape: () => {
        if (wide.value) void widen(false)
        return wide.value
      },
      recall: () => workspace.formulas[workspace.formulas.length - 1 - recalled++],
    },
    `Formula of ${props.name}`,
  )
  host.value.addEventListener('typed', (event) => {
    event.preventDefault()
    view?.dispatch(view.state.replaceSelection((event as CustomEvent<string>).detail), { scrollIntoView: true })
  })
  host.value.addEventListener('reference', (event) => {
    const from = (event as CustomEvent<Ref>).detail
    insert(`{${written(from.item, from.property, from.component)}}`)
  })
  await look()
  if (wiring.toFormula || !first.text) {
    if (wiring.toFormula) workspace.wide = me.value
    await nextTick()
    view.focus()
    view.dispatch({ selection: { anchor: 0, head: view.state.doc.length } }) // what is typed takes its place
  }
  wiring.toFormula = false
})
onBeforeUnmount(() => {
  apply()
  if (wide.value) workspace.wide = null
  view?.destroy()
  view = null
})

/** What was changed elsewhere (undone, renamed, in another window) is shown, unless something is being typed here. */
async function follow(): Promise<void> {
  if (!view || view.state.doc.toString() !== kept) return
  const stored = await ask()
  if (!view || stored.text === kept || view.state.doc.toString() !== kept) return
  kept = stored.text
  replaceText(view, kept)
}
watch(() => doc.rested, follow)
watch(
  () => doc.rested,
  () => void look(),
)
watch(
  () => playback.frame,
  () => void look(true),
)

/** Opens it wide over the lower panel, or puts it back into its place; the caret stays. */
async function widen(wide: boolean): Promise<void> {
  workspace.wide = wide ? me.value : null
  await nextTick()
  view?.requestMeasure()
  view?.focus()
}
</script>

<template>
  <div v-if="wide" class="away">
    <span class="quiet">The formula is open below.</span>
    <button class="plain more" @click="widen(false)">Put it back here</button>
  </div>
  <Teleport to="#wide-formula" :disabled="!wide" defer>
    <section
      class="formula"
      :class="{ wide }"
      :role="wide ? 'region' : undefined"
      :aria-label="wide ? `Formula editor: ${name}` : undefined"
      data-panel="card"
      @keydown.esc="(event: KeyboardEvent) => wide && !closers.has(event) && widen(false)"
    >
      <header v-if="wide">
        <h2>{{ spread ? `Row: ${name}` : `${doc.items.get(target.item)?.name}: ${name}` }}</h2>
        <span class="quiet">Ctrl Enter applies and closes. Drop a cable into the text to insert a reference.</span>
        <button class="plain more" @click="widen(false)">Close</button>
      </header>
      <div class="write">
        <div ref="host" class="editor figures" data-formula @keydown.stop />
        <ul v-if="answer.problems.length" class="problems" aria-label="What is wrong with the formula">
          <li v-for="p in answer.problems" :key="p.at + p.sentence" :class="p.warning ? 'doubt' : 'error'">
            {{ p.warning ? '△' : '✕' }} {{ p.sentence }}
            <button v-for="f in p.fixes" :key="f.label" class="plain fix" @click="mend(f)">{{ f.label }}</button>
          </li>
        </ul>
      </div>
      <FormulaReading :answer="answer" :tall="wide" />
      <FunctionList v-if="wide" class="functions" @insert="insert" />
      <button
        v-else
        class="plain more"
        title="Open the formula over the lower panel, with its curve and all functions"
        @click="widen(true)"
      >
        Open wide
      </button>
    </section>
  </Teleport>
</template>

<style scoped>
.formula {
  width: 100%;
}
.formula.wide {
  display: grid;
  grid-template: auto 1fr / minmax(0, 1.5fr) minmax(0, 1fr) 280px;
  gap: 6px 16px;
  height: 100%;
  padding: 6px 12px 10px;
}
.wide header {
  grid-column: 1 / -1;
  display: flex;
  align-items: baseline;
  gap: 16px;
}
.wide header .quiet {
  flex: 1;
  font-size: 12px;
}
h2 {
  font: 600 13px var(--face-heading);
  margin: 0;
}
.wide > :not(header) {
  min-height: 0;
  overflow: auto;
}
.editor {
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
  font-size: 12px;
}
.wide .editor {
  font-size: 13px;
}
.wide .editor :deep(.cm-editor) {
  min-height: 120px;
}
.editor:focus-within {
  border-color: var(--brass);
}
.away {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.problems {
  list-style: none;
  margin: 3px 0 0;
  padding: 0;
  font-size: 12px;
}
.error {
  color: var(--oxblood);
}
.doubt {
  color: var(--ochre);
}
.fix,
.more {
  color: var(--brassText);
  padding: 0 4px;
  min-height: 24px;
  border-radius: 3px;
  font-size: 12px;
}
.fix {
  text-decoration: underline;
}
</style>
