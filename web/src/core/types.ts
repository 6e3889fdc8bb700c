/** What the page and the core say to each other: in JSON, as the core has it, and the values of a frame in bulk. */

import type { Gestures, Id, Item as ToldItem, Operation, Project as SceneProject, SceneComposition, SceneItem } from './contract'

export type * from './contract'

/** An item without what is set of its properties, which is kept apart. */
export type Item = Omit<ToldItem, 'states'>

export type Point3 = [x: number, y: number, z: number]

/** An operation on the composition that is shown, where it does not say on which. */
export type Edit = Operation extends infer O ? (O extends Operation ? Omit<O, 'composition'> & { composition?: Id } : never) : never

/** The name of a gesture. */
export type GestureName = keyof Gestures

/** A project as the server sends it: never without a list of its items. */
export interface Project extends SceneProject {
  compositions: (SceneComposition & { items: SceneItem[] })[]
}

/** The values of a frame, the shapes that changed since the frame before, the particles, and what copies show. */
export interface Frame {
  frame: number
  /** All values; or, where there are slots, what stands in these: all others are as they were. */
  values: Float64Array<ArrayBuffer>
  slots?: Uint32Array<ArrayBuffer>
  shapes: Float32Array<ArrayBuffer>
  particles: Float32Array<ArrayBuffer>
  copies: Float32Array<ArrayBuffer>
  /** Texts that formulas wrote at this frame, and that were not known before. */
  texts?: string[]
}
