import { fromHex, hex } from '@/composables/format'
import { standing } from '@/core/standing'
import type { Control, Id, Operation, SceneComposition, Value } from '@/core/types'

/** A value as a page gives it. */
export type Given = number | boolean | string | readonly number[]

/** A control of a composition, by the name that a page knows it by. */
export interface Named {
  name: string
  item: Id
  control: Control
  /** The frames of its pins. */
  pins: number[]
}

const slug = (name: string): string =>
  name
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-|-$/g, '')

/**
 * The controls that a player has: by their names, and where two are called alike, with the name of their item before it. How they are
 * pinned is in the composition.
 */
export function named(controls: { item: Id; owner: string; control: Control }[], composition: SceneComposition): Map<string, Named> {
  const all = controls.map(({ item, owner, control }) => {
    const states = composition.items?.find((one) => one.id === item)?.states
    return { name: slug(control.name), owner: slug(owner), item, control, pins: (states?.[control.id]?.pins ?? []).map((p) => p.frame) }
  })
  const count = new Map<string, number>()
  for (const { name } of all) count.set(name, (count.get(name) ?? 0) + 1)
  const out = new Map<string, Named>()
  for (const { owner, ...one } of all) {
    let name = count.get(one.name) === 1 ? one.name : `${owner}-${one.name}`
    for (let n = 2; out.has(name); n++) name = `${one.name}-${n}`
    out.set(name, { ...one, name })
  }
  return out
}

const within = (x: number, { min = -Infinity, max = Infinity }: Control): number => Math.max(min, Math.min(max, x))

/** What a control is set to by what a page gives; null where that is none of its values. */
export function valueOf(control: Control, given: Given): number[] | string | null {
  const numbers = (): number[] => {
    const list = typeof given === 'object' ? [...given] : typeof given === 'string' ? given.split(/[\s,]+/).map(Number) : [Number(given)]
    return list.every((x) => Number.isFinite(x)) ? list : []
  }
  switch (control.kind) {
    case 'text':
      return String(given)
    case 'switch':
      return [given === true || given === '' || given === 'on' || given === 'true' || given === 1 || given === '1' ? 1 : 0]
    case 'choice': {
      const label = control.options?.indexOf(String(given)) ?? -1
      const [n] = label >= 0 ? [label] : numbers()
      return n === undefined || n < 0 || n >= (control.options?.length ?? 0) ? null : [Math.round(n)]
    }
    case 'colour': {
      const digits = typeof given === 'string' ? /^#?((?:[\da-f]{6})(?:[\da-f]{2})?)$/i.exec(given.trim()) : null
      const all = digits ? fromHex(digits[1] ?? '') : numbers()
      return all.length === 3 ? [...all, 1] : all.length === 4 ? all : null
    }
    case 'point': {
      const all = numbers()
      return all.length === (control.depth ? 3 : 2) ? all.map((x) => within(x, control)) : null
    }
    default: {
      const [x] = numbers()
      return x === undefined ? null : [within(control.whole ? Math.round(x) : x, control)]
    }
  }
}

/** A value as a page reads it. */
export function readable(control: Control, value: readonly number[]): Given {
  if (control.kind === 'switch') return (value[0] ?? 0) >= 0.5
  if (control.kind === 'choice') return control.options?.[Math.round(value[0] ?? 0)] ?? 0
  if (control.kind === 'colour') return hex(value)
  return value.length === 1 ? (value[0] ?? 0) : value
}

/** The operations that have controls stand at values, whatever their pins say. */
export function standingAt(composition: Id, all: Iterable<[Named, number[] | string]>): Operation[] {
  return [...all].flatMap(([{ item, control, pins }, value]) => {
    const one = (value.length === 1 && typeof value !== 'string' ? value[0] : value) as Value
    return standing({ item, property: control.id }, one, pins).map((edit) => ({ composition, ...edit }) as Operation)
  })
}
