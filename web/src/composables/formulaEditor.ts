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
  ViewPlugin,
  WidgetType,
  type DecorationSet,
  type ViewUpdate,
} from '@codemirror/view'
import { short } from './format'
import type { FormulaView, Value } from '@/core/types'

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

function shown(value: Value): string {
  if (value === null) return 'no value'
  if (typeof value === 'string') return `“${value}”`
  return Array.isArray(value) ? value.map(short).join('  ') : short(value)
}

/** Errors are underlined, and each line's value stands at its right. */
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
        .map((l) => Decoration.widget({ widget: new LineValue(shown(l.value)), side: 1 }).range(tr.state.doc.line(l.line).to))
      out = Decoration.set([...wrong, ...values], true)
    }
    return out
  },
  provide: (field) => EditorView.decorations.from(field),
})

/** References are chips in the text; comments step back. */
const matcher = new MatchDecorator({
  regexp: /\{[^{}\n]*\}|\/\/.*$/gm,
  decoration: (m) => Decoration.mark({ class: m[0].startsWith('{') ? 'reference' : 'comment' }),
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
  on: { change: (text: string) => void; leave: () => void; apply: () => void; recall: () => string | undefined },
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
          ...defaultKeymap,
          ...historyKeymap,
        ]),
        history(),
        closeBrackets(),
        autocompletion({ override: [complete(words)], icons: false, activateOnTyping: true }),
        EditorView.lineWrapping,
        marks,
        chips,
        EditorView.contentAttributes.of({ 'aria-label': label, spellcheck: 'false' }),
        EditorView.updateListener.of((u) => {
          if (u.docChanged) on.change(u.state.doc.toString())
          if (u.focusChanged && !u.view.hasFocus) on.leave()
        }),
        EditorView.domEventHandlers({ keydown: (event) => event.stopPropagation() }),
      ],
    }),
  })
}

export const show = (view: EditorView, answer: FormulaView): void => view.dispatch({ effects: answered.of(answer) })

export function replaceText(view: EditorView, text: string, from = 0, to = view.state.doc.length): void {
  view.dispatch({ changes: { from, to, insert: text }, selection: { anchor: from + text.length } })
}
