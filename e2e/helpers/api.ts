import type { Server } from './server'

/** Calls the API as another program would. */
export async function call<T>(server: Server, path: string, body: unknown): Promise<T> {
  const response = await fetch(server.address + path, {
    method: 'POST',
    body: JSON.stringify(body),
    headers: { 'Content-Type': 'application/json' },
  })
  if (!response.ok) throw new Error(await response.text())
  return (await response.json()) as T
}

/** Makes a project by operations on its one composition, and returns its id. */
export async function projectOf(server: Server, name: string, ops: object[]): Promise<string> {
  const { id } = await call<{ id: string }>(server, '/api/projects', { name })
  if (ops.length) await change(server, id, 0, ops)
  return id
}

export async function change(server: Server, project: string, base: number, ops: object[], composition = 'main'): Promise<void> {
  await call(server, `/api/projects/${project}/changes`, {
    id: crypto.randomUUID(),
    base,
    ops: ops.map((op) => ({ composition, ...op })),
  })
}

export const add = (value: object): object => ({
  op: 'item.add',
  at: -1,
  value,
})
