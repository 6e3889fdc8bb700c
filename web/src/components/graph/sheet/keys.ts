import { useEventListener } from '@vueuse/core'
import type { Id } from '@/core/types'
import { hand, named } from '@/composables/hand'
import { typeAhead } from '@/composables/typingAhead'
import { useGraphs } from '@/stores/graphs'
import { useWorkspace } from '@/stores/workspace'
import { useCopies } from './copies'

type Field = HTMLInputElement | HTMLTextAreaElement
/** Whether something is a field of a slip, where a value is written. */
const isField = (of: EventTarget | null): of is Field => of instanceof HTMLElement && of.matches('.slip :is(input, textarea).figures')

/** How far a key moves slips, in pixels of the sheet. */
const grid = 10

/** The keys of a sheet: along the wires, into a slip, copies, away. */
export function useSheetKeys(
  host: () => HTMLElement | null,
  closing: (id: Id) => Id | undefined,
  acts: {
    fit: () => void
    search: () => void
    lead: (slip: Id) => void
    pull: () => void
    busy: () => Promise<unknown> | null
    remove: () => void
    paste: () => void
    nudge: (x: number, y: number) => void
    close: () => boolean
  },
): (event: KeyboardEvent) => void {
  const graphs = useGraphs()
  const workspace = useWorkspace()
  const copies = useCopies()
  const seen = (id: Id | undefined): Id | undefined => id && (closing(id) ?? id)

  /** Goes from the slip that is picked along a wire, or above or below; with Shift, from the last of several, to pick one more. */
  function walk(name: string): boolean {
    const key = name.replace('Shift+', '')
    const more = key !== name
    const at = more || graphs.picked.length === 1 ? graphs.slips.get(graphs.picked[graphs.picked.length - 1] ?? '') : undefined
    if (!at) return false
    const beside = (down: boolean): Id | undefined =>
      [...graphs.slips.values()]
        .filter((s) => s.id !== at.id && !closing(s.id) && Math.abs(s.at[0] - at.at[0]) < 160 && s.at[1] > at.at[1] === down)
        .sort((a, b) => Math.abs(a.at[1] - at.at[1]) - Math.abs(b.at[1] - at.at[1]))[0]?.id
    const next = {
      ArrowLeft: () => seen(graphs.wires.find((w) => seen(w.to) === at.id && seen(w.from) !== at.id)?.from),
      ArrowRight: () => seen(graphs.wires.find((w) => seen(w.from) === at.id && seen(w.to) !== at.id)?.to),
      ArrowUp: () => beside(false),
      ArrowDown: () => beside(true),
    }[key]
    const id = next?.()
    if (id) graphs.picked = more ? [...graphs.picked.filter((p) => p !== id), id] : [id]
    return !!next
  }

  /** Starts a cable at the slip that is picked: what it leads to is found by typing. */
  function lead(): void {
    const slip = graphs.slips.get(graphs.picked[0] ?? '')
    if (slip && !['drive', 'readout', 'note', 'fold'].includes(slip.kind)) acts.lead(slip.id)
  }

  /** Writes in the first field of the slip that is picked; a fold opens. */
  function enter(): void {
    const slip = graphs.slips.get(graphs.picked[0] ?? '')
    if (slip?.kind === 'fold') return graphs.edit(slip, { open: !slip.open })
    const card = host()?.querySelector(`[data-id="${CSS.escape(slip?.id ?? '')}"]`)
    const field = card?.querySelector<HTMLElement>(':is(input, textarea, button.value)')
    const act = card?.querySelector<HTMLElement>('[data-enter]') // what is mostly done with it
    if (field) field.focus()
    else if (act) act.click()
    else card?.querySelector<HTMLElement>('button:enabled')?.focus()
  }

  /** The keys that move what is picked. */
  const nudges = (by: number, held: string): Record<string, () => void> => ({
    [held + 'ArrowLeft']: () => acts.nudge(-by * grid, 0),
    [held + 'ArrowRight']: () => acts.nudge(by * grid, 0),
    [held + 'ArrowUp']: () => acts.nudge(0, -by * grid),
    [held + 'ArrowDown']: () => acts.nudge(0, by * grid),
  })
  const plain: Record<string, () => void> = {
    '/': acts.search,
    l: lead,
    Enter: enter,
    Escape: () => {
      if (acts.close()) return
      if (graphs.picked.length) graphs.picked = []
      else host()?.blur()
    },
    Delete: acts.remove,
    Backspace: acts.remove,
    f: acts.fit,
    x: acts.pull,
    ...nudges(1, 'Alt+'),
    ...nudges(10, 'Alt+Shift+'),
  }
  const held: Record<string, () => void> = {
    d: () => void copies.duplicate(),
    c: graphs.copy,
    x: () => (graphs.copy(), graphs.take(graphs.picked)),
    v: acts.paste,
    g: () => void graphs.fold(graphs.picked),
    a: () => (graphs.picked = [...graphs.slips.keys()].filter((id) => !closing(id))),
  }

  /** What stood in a field when it was entered. */
  let before = ''
  useEventListener(host, 'focusin', ({ target }) => {
    if (isField(target)) before = target.value
  })
  /** Out of a field: Enter keeps what was typed, Esc what stood there, and the sheet has the keys again. */
  function leave(event: KeyboardEvent): void {
    const field = event.target
    if (!isField(field) || (event.key !== 'Escape' && (event.key !== 'Enter' || field instanceof HTMLTextAreaElement))) return
    if (event.key === 'Escape') field.value = before
    event.stopPropagation()
    hand.byKeyboard = true
    host()?.focus() // what has changed is kept as the field is left
  }
  useEventListener(host, 'keydown', leave, { capture: true })

  return (event) => {
    if ((event.target as HTMLElement).closest('input, textarea')) return
    if (document.querySelector('.n-dropdown-menu:not([class*="leave"])')) {
      // An open menu has the keys that go along it, and nobody has the others.
      if (!/^(Arrow.*|Enter|Escape|Tab)$/.test(event.key)) event.stopPropagation()
      return
    }
    const key = named(event)
    const over = key.startsWith('Ctrl+')
    const act = over ? held[key.slice(5)] : key.length > 1 || workspace.letterKeys ? plain[key] : undefined
    const walks = /^(Shift\+)?Arrow/.test(key) && walk(key)
    if (!walks && (!act || (event.key === 'Enter' && event.target !== host()))) return
    if (over && 'cxdg'.includes(key.slice(5)) && !graphs.picked.length) return
    event.preventDefault()
    event.stopPropagation()
    if (walks || !act) return
    const busy = acts.busy()
    if (!busy) return act()
    // What was put down last comes first; what is typed meanwhile is for what this opens.
    const give = event.key === 'Enter' || key === '/' || key === 'l' ? typeAhead() : null
    void busy.then(() => {
      if (give && !give.wanted()) return
      act()
      if (document.activeElement === host() && event.key === 'Enter') give?.up()
    })
  }
}
