/** The documents and answers of the core, as JSON. The rules behind them live in the core alone. */

export type Id = string
export type Value = number | string | number[] | null
export type ValueType = 'number' | 'point2' | 'point3' | 'colour' | 'switch' | 'text' | 'choice'
export type Easing = 'hold' | 'linear' | 'smooth'
export type ItemClass = 'null' | 'outlined' | 'pictured' | 'solid' | 'light' | 'particles' | 'camera'
export type ItemKind = string // the catalogue lists them
export type Point3 = [x: number, y: number, z: number]
export type Widget = 'slider' | 'angle' | 'colour' | 'point' | 'switch' | 'menu'

export interface Ref {
  item: Id
  property: string
  component?: string
}

export interface Pin {
  frame: number
  value: Value
  easing: Easing
}

export interface MapStop {
  in: number
  out: Value
  easing: Easing
}

export interface Link {
  id: Id
  kind: 'follow' | 'map' | 'formula'
  source: Ref
  component?: string
  operation?: 'add' | 'multiply'
  gain: number
  offset: number
  stops?: MapStop[]
  beyond?: 'go on' | 'repeat' | 'mirror'
  delay?: number
  seconds?: boolean
  off?: boolean
  /** Of a formula: the version that works, with its references bound to ids, and what was typed since and does not. */
  formula?: string
  draft?: string
  world?: boolean
  stagger?: Stagger
}

/** What a link on a roster adds for each member in turn. */
export interface Stagger {
  by?: 'number' | 'share'
  offset?: number
  gain?: number
  delay?: number
  seed?: number
}

/** One link on a whole roster, with the members that it has now. */
export interface Spread {
  id: Id
  name: string
  roster: Roster
  property: string
  component?: string
  /** The components that members of their own drive, by member. */
  parts?: Record<Id, string>
  out?: Id[]
  link: Link
  weight?: number
  /** The property that is the weight, in place of a number. */
  weightFrom?: Ref
  pair?: Roster
  /** The properties that it drives, row by row. */
  members: Ref[] | null
}

export interface Roster {
  kind: 'children' | 'chain' | 'picked' | 'named' | 'vertices'
  item?: Id
  items?: Id[]
  pattern?: string
  /** Rows: the children of every member of another roster. */
  of?: Roster
}

/** What the core says of a formula. */
export interface FormulaView {
  text: string
  problems: FormulaProblem[]
  lines: { line: number; value: Value }[]
  type: string
  /** The formula, read out in plain words. */
  words: string
  curve?: (number | null)[]
}

export interface FormulaProblem {
  at: number
  end: number
  sentence: string
  warning?: boolean
  fixes?: { label: string; at: number; end: number; text: string }[]
}

export interface FormulaFunction {
  name: string
  usage: string
  help: string
  example: string
  group: string
}

export interface State {
  own: Value
  pins?: Pin[]
  links?: Link[]
  min?: number
  max?: number
}

export interface Control {
  id: Id
  name: string
  kind: Widget
  note?: string
  unit?: string
  whole?: boolean
  depth?: boolean
  softMin?: number
  softMax?: number
  min?: number
  max?: number
  options?: string[]
  step?: number
  accent?: number
  /** Where it stands on the viewport: in the composition, or from the place of the item it travels with. */
  laid?: { at: [x: number, y: number]; with?: Id }
  default: Value
}

export interface Spec {
  key: string
  name: string
  group: string
  type: ValueType
  unit: string
  default: Value
  softMin: number
  softMax: number
  min?: number
  max?: number
  step: number
  whole?: boolean
  options?: string[]
  readOnly?: boolean
  /** From the item's first slot; -1: it has no place in the column and is asked for. */
  offset: number
  tag: string
  parts?: string[]
  /** Components that are worked out of the others; they can be driven. */
  worked?: string[]
  holds?: boolean
}

/** A picture, or a part of one: left, top, width, height in its pixels; all zero for the whole. */
export interface PictureFrame {
  asset: string
  part?: [left: number, top: number, width: number, height: number]
}

export interface Item {
  id: Id
  name: string
  kind: ItemKind
  parent?: Id
  hidden?: boolean
  locked?: boolean
  notInOutput?: boolean
  label?: number
  note?: string
  path?: boolean
  evenOdd?: boolean
  frames?: PictureFrame[]
  stops?: { at: number; colour: number[] }[]
  attachment?: { noPosition?: boolean; noRotation?: boolean; noScale?: boolean }
  controls?: Control[]
  states?: Record<string, State>
  specs?: Spec[]
}

export interface Composition {
  id: Id
  name: string
  width: number
  height: number
  rate: number
  frames: number
  background: [number, number, number, number]
}

export interface Check {
  severity: 'error' | 'warning'
  at: Ref
  sentence: string
  fixes?: { label: string; ops?: object[]; reattach?: Id }[]
}

/** One thing on the way of an influence; it may die there. */
export interface Reason {
  at: Ref
  sentence: string
  value: Value
  dead?: boolean
  /** How many others it comes by way of. */
  depth?: number
}

export interface Structure {
  order: Id[] | null
  depths: number[]
  base: number[]
  world: number
  stride: number
  hidden: boolean[]
  out: boolean[]
  spreads: Spread[] | null
}

/** What all links together come to. */
export interface Survey {
  drives: Record<string, number>
  checks: Check[] | null
  /** The texts of formulas, by "item/link" or the id of a link on a roster. */
  formulas: Record<string, string>
}

export interface View {
  revision: number
  waiting: number
  canUndo: boolean
  canRedo: boolean
  name: string
  compositions: Composition[]
  composition: Id
  poses: Ref[] | null
  items: Item[]
  /** All items are as they stand in the project that was opened, but for specs. */
  known?: boolean
  specs?: { item: Id; specs: Spec[] }[]
  /** What is set of single properties of other items; null: nothing any more. */
  states?: { item: Id; property: string; state: State | null }[]
  structure?: Structure
  /** What the survey tells may have changed. */
  links: boolean
  texts?: string[]
}

/** A project as the server sends it. */
export interface Project {
  name: string
  compositions: { id: Id; items: (Omit<Item, 'path' | 'evenOdd'> & { path?: { evenOdd?: boolean } })[] }[]
}

/** What every call that may have changed the document answers. */
export interface Changed {
  view: View
  made?: Id[]
  note?: string
  details?: string[]
  dropped?: string[]
}

export interface Kind {
  kind: ItemKind
  name: string
  class: ItemClass
  menu: string
  drawn: boolean
  specs: Spec[]
  readable: Spec[]
}

/** A numbered vertex of a path or an object, as it stands in the composition. */
export interface Vertex {
  id: number
  number: number
  key: string
  at: Point3
  place: Point3
  in: Point3
  out: Point3
  handles?: boolean
  next?: number
}

export interface Catalogue {
  kinds: Kind[]
  fits: { source: ValueType; target: ValueType }[]
  /** The types that can be the input of a map. */
  inputs: ValueType[]
  functions: FormulaFunction[]
  names: string[]
}

export interface Change {
  id: string
  base: number
  revision?: number
  ops: unknown[]
}

/** Own values of controls at evenly spaced frames, component after component, by control. */
export type Samples = Record<Id, number[]>

/** The values of a frame, the shapes that changed since the frame before, and the particles. */
export interface Frame {
  frame: number
  /** The whole column; or, where there are slots, what stands in these: all others are as they were. */
  values: Float64Array<ArrayBuffer>
  slots?: Uint32Array<ArrayBuffer>
  shapes: Float32Array<ArrayBuffer>
  particles: Float32Array<ArrayBuffer>
  /** Texts that formulas wrote at this frame, and that were not known before. */
  texts?: string[]
}
