<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import type { EditorView } from '@codemirror/view'
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, useTemplateRef, watch } from 'vue'
import { closing, makeEditor, replaceText, show } from '@/composables/formulaEditor'
import { core } from '@/core/client'
import type { FormulaView, Id, Ref } from '@/core/types'
import { useDocument } from '@/stores/document'
import { usePlayback } from '@/stores/playback'
import { useWiring } from '@/stores/wiring'
import { useWorkspace } from '@/stores/workspace'
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
const listing = ref(false)
let view: EditorView | null = null
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

const quoted = (name: string): string => (/[:{}.~@]/.test(name) ? `"${name.replaceAll('"', "'")}"` : name)
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
  const first = await ask()
  kept = first.text
  if (!host.value) return
  view = makeEditor(
    host.value,
    first.text,
    words,
    {
      change: (text) => void lookSoon(text),
      leave: apply,
      apply,
      recall: () => workspace.formulas[workspace.formulas.length - 1 - recalled++],
    },
    `Formula of ${props.name}`,
  )
  host.value.addEventListener('reference', (event) => {
    const from = (event as CustomEvent<Ref>).detail
    insert(`{${written(from.item, from.property, from.component)}}`)
  })
  await look()
  if (wiring.toFormula || !first.text) {
    view.focus()
    view.dispatch({ selection: { anchor: 0, head: view.state.doc.length } }) // what is typed takes its place
  }
  wiring.toFormula = false
})
onBeforeUnmount(() => {
  apply()
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

const curve = computed(() => {
  const list = answer.value.curve ?? []
  const numbers = list.filter((x): x is number => x !== null)
  if (numbers.length < 2) return null
  const [lo, hi] = [Math.min(...numbers), Math.max(...numbers)]
  const y = (x: number): number => (hi > lo ? 30 - ((x - lo) / (hi - lo)) * 28 : 16)
  return list
    .map((x, k) =>
      x === null ? '' : `${k && list[k - 1] !== null ? 'L' : 'M'}${((k / (list.length - 1)) * 252).toFixed(1)} ${y(x).toFixed(1)}`,
    )
    .join('')
})
const now = computed(() => (playback.frame / Math.max(1, (doc.composition?.frames ?? 2) - 1)) * 252)
</script>

<template>
  <div class="formula">
    <div ref="host" class="editor figures" data-formula />
    <ul v-if="answer.problems.length" class="problems" aria-label="What is wrong with the formula">
      <li v-for="p in answer.problems" :key="p.at + p.sentence" :class="p.warning ? 'doubt' : 'error'">
        {{ p.warning ? '△' : '✕' }} {{ p.sentence }}
        <button v-for="f in p.fixes" :key="f.label" class="plain fix" @click="mend(f)">{{ f.label }}</button>
      </li>
    </ul>
    <p v-if="answer.words" class="words">{{ answer.words }}</p>
    <svg v-if="curve" class="curve" viewBox="0 0 252 32" preserveAspectRatio="none" role="img" aria-label="The result over the composition">
      <path :d="curve" />
      <line :x1="now" :x2="now" y1="0" y2="32" />
    </svg>
    <button class="plain more" :aria-expanded="listing" @click="listing = !listing">
      {{ listing ? 'hide the functions' : 'functions' }}
    </button>
    <FunctionList v-if="listing" @insert="insert" />
  </div>
</template>

<style scoped>
.formula {
  width: 100%;
}
.editor {
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
  font-size: 12px;
}
.editor :deep(.cm-editor) {
  min-height: 40px;
  outline: none;
}
.editor:focus-within {
  border-color: var(--brass);
}
.editor :deep(.cm-content) {
  font-family: var(--face-figures);
  caret-color: var(--ink);
  padding: 4px 0;
}
.editor :deep(.reference) {
  background: var(--verdigrisSoft);
  color: var(--verdigris);
  border-radius: 3px;
  padding: 1px 0;
}
.editor :deep(.comment) {
  color: var(--ink2);
  font-style: italic;
}
.editor :deep(.wrong) {
  text-decoration: underline wavy var(--oxblood);
}
.editor :deep(.doubtful) {
  text-decoration: underline wavy var(--ochre);
}
.editor :deep(.line-value) {
  float: right;
  color: var(--verdigris);
  padding-left: 10px;
  font-size: 11px;
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
  border-radius: 3px;
  text-decoration: underline;
  font-size: 12px;
}
.words::first-letter {
  text-transform: uppercase;
}
.words {
  margin: 3px 0 0;
  font-size: 12px;
  color: var(--ink2);
  font-style: italic;
  max-height: 66px;
  overflow: auto;
}
.curve {
  display: block;
  width: 100%;
  height: 32px;
  margin-top: 4px;
  border-top: 1px solid var(--line);
}
.curve path {
  fill: none;
  stroke: var(--verdigris);
  stroke-width: 1.2;
  vector-effect: non-scaling-stroke;
}
.curve line {
  stroke: var(--brass);
  vector-effect: non-scaling-stroke;
}
</style>
