/** How numbers are shown: at most three places, fewer the larger they are, no trailing zeros. */
export function short(x: number): string {
  if (!Number.isFinite(x)) return '—'
  if (Math.abs(x) >= 1e7) return x.toExponential(3)
  const s = x.toFixed(Math.abs(x) >= 100 ? 1 : Math.abs(x) >= 10 ? 2 : 3)
  return s.replace(/\.?0+$/, '').replace(/^-0$/, '0')
}

/** How long something takes yet, roughly. */
export const roughly = (seconds: number): string => (seconds < 90 ? `${Math.ceil(seconds)} s` : `${Math.ceil(seconds / 60)} min`)

/** How much of something is done, in whole percent. */
export const percentOf = (done: number, of: number): number => Math.floor((100 * done) / Math.max(1, of))

/** A colour of four components as CSS and as hex. */
export function css([r = 0, g = 0, b = 0, a = 1]: readonly number[]): string {
  return `rgb(${r * 255} ${g * 255} ${b * 255} / ${a})`
}

export function hex(colour: readonly number[]): string {
  const pair = (x: number): string =>
    Math.round(Math.max(0, Math.min(1, x)) * 255)
      .toString(16)
      .padStart(2, '0')
  const [r = 0, g = 0, b = 0, a = 1] = colour
  return '#' + pair(r) + pair(g) + pair(b) + (a < 1 ? pair(a) : '')
}

export function fromHex(text: string): number[] {
  const digits = text.replace('#', '')
  const part = (i: number): number => parseInt(digits.slice(i, i + 2), 16) / 255
  return [part(0), part(2), part(4), digits.length >= 8 ? part(6) : 1]
}

/** A value in a few words, as a property has it. */
export function shownValue(spec: { type: string; unit?: string; options?: string[] }, value: unknown): string {
  if (typeof value === 'string') return `“${value.length > 24 ? value.slice(0, 24) + '…' : value}”`
  if (Array.isArray(value)) return spec.type === 'colour' ? hex(value as number[]) : (value as number[]).map(short).join(', ')
  const x = Number(value)
  if (spec.type === 'switch') return x >= 0.5 ? 'on' : 'off'
  if (spec.type === 'choice') return spec.options?.[x] ?? short(x)
  return spec.unit ? `${short(x)} ${spec.unit}` : short(x)
}

/** A moment as the browser's language writes it. */
export const dated = (at: string): string =>
  new Intl.DateTimeFormat(undefined, { dateStyle: 'medium', timeStyle: 'short' }).format(new Date(at))
