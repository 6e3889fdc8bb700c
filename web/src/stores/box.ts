import { defineStore } from 'pinia'
import { computed, ref, shallowReactive, shallowRef, watch } from 'vue'
import { numberAt, shareOf, ways, type Binding } from '@/box/binding'
import { bytesOf, reader, type Message } from '@/box/messages'
import { channel, simulated, type Told } from '@/box/simulated'
import { said } from '@/composables/notify'
import type { Gestures, Ref, Spec } from '@/core/types'
import { asking } from './asking'
import { useDocument } from './document'
import { useRecording } from './recording'
import { useSelection } from './selection'

const near = 0.015 // of its way: a fader stands where the value is
const busy = 400 // ms after its last message in which a fader is in a hand

/** Boxes with faders: which are there, what is bound to them, and what they do. Bindings are of this computer and project. */
export const useBox = defineStore('box', () => {
  const doc = useDocument()
  const recording = useRecording()
  const selection = useSelection()

  const bindings = shallowRef<Binding[]>([])
  const where = (): string => `wunderkammer:box:${doc.project}`
  watch(
    () => doc.project,
    () => (bindings.value = JSON.parse(localStorage.getItem(where()) ?? '[]') as Binding[]),
    { immediate: true },
  )
  function bind(list: Binding[]): void {
    bindings.value = list
    localStorage.setItem(where(), JSON.stringify(list))
  }
  const same = (a: Ref, b: Ref): boolean => a.item === b.item && a.property === b.property
  const boundTo = (target: Ref): Binding[] => bindings.value.filter((b) => same(b.target, target))
  const unbind = (target: Ref): void => bind(bindings.value.filter((b) => !same(b.target, target)))

  // ---- what is there

  const boxes = ref<string[]>([])
  const outputs = new Map<string, (bytes: number[]) => void>()
  const readers = new Map<string, ReturnType<typeof reader>>()
  function there(box: string, send?: (bytes: number[]) => void): void {
    if (!boxes.value.includes(box)) boxes.value = [...boxes.value, box]
    if (send) outputs.set(box, send)
    sent.clear()
    sendBack()
  }
  function gone(box: string): void {
    if (!boxes.value.includes(box)) return
    boxes.value = boxes.value.filter((b) => b !== box)
    outputs.delete(box)
    if (recording.running) said(`${box} is gone. What it performed until now is kept; the recording goes on.`)
  }

  const air = channel()
  air.onmessage = ({ data }: MessageEvent<Told>) => {
    if ('to' in data) {
      if (data.to === 'studio') receive(simulated.name, data.bytes)
    } else if ('box' in data) {
      if (data.box === 'here') there(simulated.name, (bytes) => air.postMessage({ to: 'box', bytes } satisfies Told))
      else gone(simulated.name)
    }
  }
  air.postMessage({ studio: 'here' } satisfies Told)
  const openSimulated = (): void => void window.open('/box', 'wunderkammer-box', 'popup,width=560,height=360')

  /** Asks the browser for the boxes that are plugged in. */
  async function connect(): Promise<void> {
    if (!('requestMIDIAccess' in navigator)) return said('This browser has no Web MIDI. Open the simulated box, or try another browser.')
    try {
      const access = await navigator.requestMIDIAccess()
      const look = (): void => {
        for (const input of access.inputs.values()) {
          const box = input.name ?? 'Box'
          if (input.state === 'disconnected') gone(box)
          else {
            const output = [...access.outputs.values()].find((o) => o.name === input.name && o.state === 'connected')
            input.onmidimessage = ({ data }) => data && receive(box, data)
            there(box, output && ((bytes) => output.send(bytes)))
          }
        }
      }
      access.onstatechange = look
      look()
      said(access.inputs.size ? `Connected: ${boxes.value.join(', ')}.` : 'No box was found. Plug one in; it is connected then.')
    } catch {
      said('The browser did not allow it. Allow MIDI devices for this page, then connect again.')
    }
  }

  // ---- learning

  const learning = ref(false)
  /** What a fader is wanted for next, of what is armed, or of the controls that are selected. */
  const wanted = computed<Ref | undefined>(() => {
    const targets = recording.armed.length ? recording.armed : selection.controls
    return targets
      .flatMap((t) => ways(doc.spec(t.item, t.property) ?? ({} as Spec)).map((component): Ref => ({ ...t, component })))
      .find((t) => !bindings.value.some((b) => same(b.target, t) && b.target.component === t.component))
  })
  const last = { from: '', at: 0 } // what was bound last: it is moved for a while yet
  const began = new Map<string, number>()
  function learn(): void {
    if (!wanted.value) return said('Arm or select the controls first that have no fader of a box yet.')
    learning.value = true
    began.clear()
  }
  function learnt(box: string, m: Message): void {
    const target = wanted.value
    if (!target) return void (learning.value = false)
    const first = began.get(m.from)
    if ('share' in m && first === undefined) began.set(m.from, m.share)
    const meant = 'pressed' in m || (first !== undefined && Math.abs(m.share - first) > 0.03)
    if (!meant || (m.from === last.from && performance.now() - last.at < 800)) return
    bind([...bindings.value.filter((b) => b.box !== box || b.from !== m.from), { box, from: m.from, target }])
    Object.assign(last, { from: m.from, at: performance.now() })
    said(`Bound: ${doc.nameOf(target)}.`)
    if (!wanted.value) learning.value = false
  }

  // ---- what they do

  /** Where faders stand, as far as they said, and since when nothing came of one. */
  const stands = shallowReactive(new Map<string, number>())
  const caught = new Map<string, { share: number; at: number }>()
  const keyOf = (b: { box: string; from: string }): string => `${b.box} ${b.from}`

  function receive(box: string, bytes: ArrayLike<number>): void {
    if (!readers.has(box)) readers.set(box, reader())
    const m = readers.get(box)?.(bytes)
    if (!m) return
    if (learning.value) {
      learnt(box, m)
      return sendSoon(keyOf({ box, from: m.from }))
    }
    for (const b of bindings.value) if (b.box === box && b.from === m.from) act(b, m)
  }

  const current = (b: Binding, spec: Spec): number => doc.numbers(b.target.item, spec)[component(b, spec)] ?? 0
  const component = (b: Binding, spec: Spec): number => Math.max(0, spec.parts?.indexOf(b.target.component ?? '') ?? 0)

  function act(b: Binding, m: Message): void {
    const spec = doc.spec(b.target.item, b.target.property)
    if (!spec) return
    const now = current(b, spec)
    if ('pressed' in m) {
      const count = spec.options?.length ?? (spec.type === 'switch' ? 2 : 0)
      if (count) void set(b, (now + 1) % count, true)
      return
    }
    const key = keyOf(b)
    const before = stands.get(key)
    stands.set(key, m.share)
    const held = caught.get(key)
    const stand = held && performance.now() - held.at < busy ? held.share : shareOf(spec, now)
    if (stand === null) return
    // Nothing moves until the fader meets the value.
    const ours = held && Math.abs(held.share - stand) < near * 2
    const meets = Math.abs(m.share - stand) < near || (before !== undefined && (before - stand) * (m.share - stand) <= 0)
    if (!ours && !meets) {
      caught.delete(key)
      return sendSoon(key)
    }
    caught.set(key, { share: m.share, at: performance.now() })
    set(b, numberAt(spec, m.share))
  }

  const moving = new Map<string, Gestures['set']>()
  let rest = 0
  /** Sets what is bound, for the time being while a hand moves it; all that move at once go together. */
  function set(b: Binding, value: number, once = false): void {
    const one = { targets: [b.target], value }
    if (recording.running) return void recording.takes(one, true) // what is not armed stays as it is
    if (performance.now() - recording.ended() < 2 * busy) return // it is still on its way
    if (once) return void doc.gesture('set', one)
    moving.set(keyOf(b), one)
    const sets = [...moving.values()]
    void doc.preview('set each', { sets })
    clearTimeout(rest)
    rest = window.setTimeout(() => {
      moving.clear()
      void doc.gesture('set each', { sets })
    }, 300)
  }
  /** Whether a fader waits to be moved to where its control is. */
  const waits = (b: Binding): boolean => {
    const spec = doc.spec(b.target.item, b.target.property)
    const at = stands.get(keyOf(b))
    const stand = spec && shareOf(spec, current(b, spec))
    return at !== undefined && typeof stand === 'number' && Math.abs(at - stand) > near * 2
  }

  /** Tells boxes that have motors where the controls are. */
  const sent = new Map<string, number>()
  function sendBack(): void {
    for (const b of bindings.value) {
      const spec = doc.spec(b.target.item, b.target.property)
      const send = outputs.get(b.box)
      const key = keyOf(b)
      if (!spec || !send || b.from.includes('note') || performance.now() - (caught.get(key)?.at ?? -busy) < busy) continue
      const share = shareOf(spec, current(b, spec))
      if (share === null || Math.abs(share - (sent.get(key) ?? -1)) < 0.0005) continue
      sent.set(key, share)
      for (const bytes of bytesOf(b.from, share)) send(bytes)
    }
  }
  watch([() => doc.values, () => doc.rested, bindings], sendBack)
  let soon = 0
  /** A fader that was moved, and that nothing came of, goes back once it is let go. */
  function sendSoon(key: string): void {
    sent.delete(key)
    clearTimeout(soon)
    soon = window.setTimeout(sendBack, busy + 50)
  }

  return { bindings, boxes, unbind, stands, ...asking({ boundTo, waits }), connect, openSimulated, learning, learn, wanted, receive }
})
