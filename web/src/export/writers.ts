import type { Format } from '@/core/types'
import type { Writing } from './files'
import { movie } from './movie'
import { numbered } from './numbered'

/** Takes one picture after the other off a canvas, and makes a file of them. */
export interface Writer {
  /** Takes what is on the canvas as a frame; how many were taken before says when it is shown. With it, what is heard until the next. */
  add: (nth: number, frame: number, heard?: [left: Float32Array, right: Float32Array]) => Promise<void>
  end: () => Promise<void>
  drop: () => Promise<void>
}

/** What pictures are written to. */
export interface Into {
  canvas: HTMLCanvasElement
  to: Writing['stream']
  format: Format
  /** Frames a second. */
  rate: number
  /** How the pictures are called, where each is a file. */
  name: string
  last: number
  /** Whether something is heard with the pictures. */
  sound: boolean
}

/** Begins a file of a format; why that can't be made here is thrown. */
export const write = (into: Into): Promise<Writer> => (into.format.codec ? movie(into) : numbered(into))
