import {
  autocompletion,
  closeBrackets,
  completionKeymap,
  type Completion,
  type CompletionContext,
  type CompletionResult,
} from '@codemirror/autocomplete'
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands'
import { EditorState, StateEffect, StateField } from '@codemirror/state'
import {
  Decoration,
  EditorView,
  keymap,
  MatchDecorator,
  tooltips,
  ViewPlugin,
  WidgetType,
  type DecorationSet,
  type ViewUpdate,
} from '@codemirror/view'
import { short } from './format'
import type { FormulaLine, FormulaView, Value } from '@/core/types'

/** What the core said of the text last. */
const answered = StateEffect.define<FormulaView>()

class LineValue extends WidgetType {
  constructor(readonly text: string) {
    super()
  }

  override eq(other: LineValue): boolean {
    return other.text === this.text
  }

  toDOM(): HTMLElement {
    const span = document.createElement('span')
    span.className = 'line-value'
    span.textContent = this.text
    return span
  }
}

/** A line gives a value, or a list of them, of which the first are shown. */
function lineShown({ value, list }: FormulaLine): string {
  if (!list) return shown(value)
  const more = list.count > list.values.length ? ' …' : ''
  return `${list.count}: ${list.values.map((v) => (Array.isArray(v) ? `(${shown(v)})` : shown(v))).join(' · ')}${more}`
}

function shown(value: Value): string {
  if (value === null) return 'no value'
  if (typeof value === 'string') return `“${value}”`
  return Array.isArray(value) ? value.map(short).join('  ') : short(value)
}

/** Errors are underlined, and each line's value stands at its right: before its text, so that it stays at its first row where it wraps. */
const marks = StateField.define<DecorationSet>({
  create: () => Decoration.none,
  update(old, tr) {
    let out = old.map(tr.changes)
    for (const effect of tr.effects) {
      if (!effect.is(answered)) continue
      const end = tr.state.doc.length
      const wrong = effect.value.problems.flatMap((p) => {
        const [from, to] = [Math.min(p.at, end), Math.min(Math.max(p.end, p.at + 1), end)]
        return to > from
          ? [Decoration.mark({ class: p.warning ? 'doubtful' : 'wrong', attributes: { title: p.sentence } }).range(from, to)]
          : []
      })
      const values = effect.value.lines
        .filter((l) => l.line <= tr.state.doc.lines)
        .map((l) => Decoration.widget({ widget: new LineValue(lineShown(l)), side: -1 }).range(tr.state.doc.line(l.line).from))
      out = Decoration.set([...wrong, ...values], true)
    }
    return out
  },
  provide: (field) => EditorView.decorations.from(field),
})

/** How pieces of the text look, by their kind: references are chips; comments step back. */
const pieces = {
  reference: '\\{[^{}\\n]*\\}',
  comment: '\\/\\/.*$',
  string: '"[^"\\n]*"',
  number: '\\b\\d+(?:\\.\\d+)?(?:[a-z%°]+)?',
  word: '\\b(?:else|and|or|not)\\b',
  call: '[\\p{L}_][\\p{L}\\p{N}_]*(?=\\()',
  made: '^[ \\t]*[\\p{L}_][\\p{L}\\p{N}_]*(?=[ \\t]*=[^=])',
}
const matcher = new MatchDecorator({
  regexp: new RegExp(
    Object.entries(pieces)
      .map(([name, text]) => `(?<${name}>${text})`)
      .join('|'),
    'gmu',
  ),
  decoration: (m) => Decoration.mark({ class: Object.keys(m.groups ?? {}).find((k) => m.groups?.[k] !== undefined) ?? '' }),
})
/** The colours of both lights, by the names that the theme gives them. */
const look = EditorView.theme({
  '&.cm-editor': { minHeight: '40px' }, // what shows hints, at the end of the page, has the classes of the theme, too
  '&': { backgroundColor: 'var(--card)', color: 'var(--ink)' },
  '&.cm-focused': { outline: 'none' },
  '.cm-content': { fontFamily: 'var(--face-figures)', caretColor: 'var(--ink)', padding: '4px 0' },
  '&.cm-focused .cm-cursor': { borderLeftColor: 'var(--ink)' },
  '&.cm-focused > .cm-scroller > .cm-selectionLayer .cm-selectionBackground, .cm-content ::selection': { background: 'var(--picked)' },
  '.reference': { background: 'var(--verdigrisSoft)', color: 'var(--verdigris)', borderRadius: '3px', padding: '1px 0' },
  '.comment': { color: 'var(--ink2)', fontStyle: 'italic' },
  '.call': { color: 'var(--brassText)' },
  '.word': { color: 'var(--brassText)', fontWeight: '600' },
  '.string': { color: 'var(--oxblood)' },
  '.made': { fontWeight: '600' },
  '.wrong': { textDecoration: 'underline wavy var(--oxblood)' },
  '.doubtful': { textDecoration: 'underline wavy var(--ochre)' },
  '.line-value': { float: 'right', color: 'var(--verdigris)', paddingLeft: '10px', fontSize: '11px' },
  '&.cm-editor .cm-matchingBracket, .cm-matchingBracket': { background: 'var(--picked)' },
  '.cm-tooltip': { background: 'var(--card)', color: 'var(--ink)', border: '1px solid var(--track)', borderRadius: '4px' },
  '.cm-tooltip.cm-tooltip-autocomplete > ul': { fontFamily: 'var(--face-figures)', maxHeight: '220px' },
  '.cm-tooltip-autocomplete > ul > li[aria-selected]': { background: 'var(--picked)', color: 'var(--ink)' },
  '.cm-completionDetail': { color: 'var(--ink2)', fontStyle: 'normal' },
  '.cm-completionMatchedText': { textDecoration: 'none', color: 'var(--brassText)', fontWeight: '600' },
  '.cm-tooltip.cm-completionInfo': { background: 'var(--card)', color: 'var(--ink)', maxWidth: '320px', padding: '4px 8px' },
})
const chips = ViewPlugin.fromClass(
  class {
    decorations: DecorationSet
    constructor(view: EditorView) {
      this.decorations = matcher.createDeco(view)
    }
    update(update: ViewUpdate): void {
      this.decorations = matcher.updateDeco(update, this.decorations)
    }
  },
  { decorations: (v) => v.decorations },
)

/** Puts a reference in and leaves the caret behind its brace. */
export function closing(view: EditorView, completion: Completion, from: number, to: number): void {
  const closed = view.state.sliceDoc(to, to + 1) === '}'
  replaceText(view, completion.label + '}', from, closed ? to + 1 : to)
}

export interface Words {
  functions: Completion[]
  references: () => Completion[]
}

function complete(words: Words) {
  return (context: CompletionContext): CompletionResult | null => {
    const inside = context.matchBefore(/\{[^{}\n]*/)
    if (inside) return { from: inside.from + 1, options: words.references(), validFor: /^[^{}\n]*$/ }
    const name = context.matchBefore(/[\p{L}_][\p{L}\p{N}_]*/u)
    if (!name && !context.explicit) return null
    return { from: name?.from ?? context.pos, options: words.functions, validFor: /^[\p{L}\p{N}_]*$/u }
  }
}

/** Makes an editor of formulas; label is its name for screen readers. */
export function makeEditor(
  parent: HTMLElement,
  text: string,
  words: Words,
  on: {
    change: (text: string) => void
    leave: () => void
    apply: () => void
    escape: () => boolean // whether there was something to leave
    recall: () => string | undefined
  },
  label: string,
): EditorView {
  return new EditorView({
    parent,
    state: EditorState.create({
      doc: text,
      extensions: [
        keymap.of([
          { key: 'Mod-Enter', run: () => (on.apply(), true) },
          {
            key: 'ArrowUp',
            run: (view) => {
              const earlier = view.state.doc.length ? undefined : on.recall()
              if (earlier !== undefined) replaceText(view, earlier)
              return earlier !== undefined
            },
          },
          ...completionKeymap,
          { key: 'Escape', run: () => on.escape() },
          ...defaultKeymap,
          ...historyKeymap,
        ]),
        history(),
        closeBrackets(),
        autocompletion({ override: [complete(words)], icons: false, activateOnTyping: true }),
        tooltips({ parent: document.body, position: 'fixed' }),
        EditorView.lineWrapping,
        look,
        marks,
        chips,
        EditorView.contentAttributes.of({ 'aria-label': label, spellcheck: 'false' }),
        EditorView.updateListener.of((u) => {
          if (u.docChanged) on.change(u.state.doc.toString())
          if (u.focusChanged && !u.view.hasFocus) on.leave()
        }),
      ],
    }),
  })
}

export const show = (view: EditorView, answer: FormulaView): void => view.dispatch({ effects: answered.of(answer) })

export function replaceText(view: EditorView, text: string, from = 0, to = view.state.doc.length): void {
  view.dispatch({ changes: { from, to, insert: text }, selection: { anchor: from + text.length } })
}
