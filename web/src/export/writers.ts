import type { Catalogue, Format, Id, Project } from '@/core/types'
import { animatedPng } from './apng'
import type { Writing } from './files'
import { animatedGif } from './gif'
import { movie } from './movie'
import { numbered, still } from './numbered'
import { player } from './player'
import { animatedWebp } from './webp'

/** Takes one picture after the other off a canvas, and makes a file of them. */
export interface Writer {
  /**
   * Takes what is on the canvas; how many were taken before says when it is shown, the number what it is called where it is a file. With
   * it, what is heard until the next.
   */
  add: (nth: number, number: number, heard?: [left: Float32Array, right: Float32Array]) => Promise<void>
  end: () => Promise<void>
  drop: () => Promise<void>
}

/** What pictures are written to. */
export interface Into {
  canvas: HTMLCanvasElement
  to: Writing['stream']
  format: Format
  /** Pictures a second. */
  rate: number
  /** How many there are. */
  count: number
  /** How the pictures are called, where each is a file, and the last number. */
  name: string
  last: number
  /** Whether something is heard with the pictures. */
  sound: boolean
  /** How often it plays; 0 is for ever. */
  loop: number
  /** Whether nothing is behind what is drawn. */
  clear: boolean
  /** What is drawn. */
  project: Project
  composition: Id
  catalogue: Catalogue
}

/** Who writes the formats that are drawn, by their keys. */
const writers: Record<string, (into: Into) => Writer | Promise<Writer>> = {
  mp4: movie,
  webm: movie,
  av1: movie,
  png: numbered,
  apng: animatedPng,
  webp: animatedWebp,
  gif: animatedGif,
  picture: still,
  player,
}

/** Begins a file of a format; why that can't be made here is thrown. */
export async function write(into: Into): Promise<Writer> {
  const begin = writers[into.format.key]
  if (!begin) throw new Error(`pictures of the format ${into.format.name} can’t be written here`)
  return begin(into)
}
