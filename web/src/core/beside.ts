import * as Comlink from 'comlink'
import { read, readTold, type Answer, type CoreService } from './client'
import type { Changed, Frame, Gestures, Id, Methods, Project } from './types'

/** A core of its own, with a project that is looked at beside the one that is open. */
export interface Beside {
  opened: Changed
  first: Frame | null
  frame: (at: number) => Promise<Frame | null>
  /** Makes a gesture for the time being, in place of the one before, and works out a frame with it. */
  preview: <G extends keyof Gestures>(gesture: G, using: Gestures[G], at: number) => Promise<Frame | null>
  ask: <M extends keyof Methods>(method: M, argument: Methods[M]['argument']) => Promise<Answer<Methods[M]['answer']>>
  close: () => void
}

/** Opens a project beside the one that is open, at a frame: a composition of it, or its first. */
export async function openBeside(project: Project, at: number, composition?: Id): Promise<Beside> {
  const worker = new Worker(new URL('./worker.ts', import.meta.url), { type: 'module', name: 'core beside' })
  const service = Comlink.wrap<CoreService>(worker)
  const failed = new Promise<never>((_, reject) => (worker.onerror = () => reject(new Error('the core cannot be loaded'))))
  const document = new TextEncoder().encode(JSON.stringify({ project, revision: 0, checked: true }))
  let answer = readTold(await Promise.race([service.open(Comlink.transfer(document, [document.buffer]), '[]', at), failed]))
  const shown = (answer.result as Changed | undefined)?.view.composition
  if (composition && shown && shown !== composition)
    answer = readTold(await Promise.race([service.act('select', JSON.stringify(composition), at), failed]))
  if (answer.broken || answer.error || !answer.result) {
    worker.terminate()
    throw new Error(answer.error ?? answer.broken)
  }
  return {
    opened: answer.result as Changed,
    first: answer.frame,
    ask: async (method, argument) => read(await service.ask(method, JSON.stringify(argument))) as never,
    preview: async (gesture, using, at) => {
      const asked = { gesture, with: using, frame: at, preview: true }
      const told = readTold(await service.act('do', JSON.stringify(asked), at))
      if (told.error ?? told.broken) throw new Error(told.error ?? told.broken)
      return told.frame
    },
    frame: async (to) => (await service.frame(to)).frame,
    close: () => worker.terminate(),
  }
}
