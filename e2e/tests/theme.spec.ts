import { palettes, type ThemeName } from '../../web/src/theme'
import { expect, test } from '@playwright/test'

/** The contrast of two colours (WCAG 2.2: relative luminance of sRGB). */
function contrast(a: string, b: string): number {
  const luminance = (hex: string): number => {
    const [r = 0, g = 0, b = 0] = [1, 3, 5].map((k) => {
      const x = parseInt(hex.slice(k, k + 2), 16) / 255
      return x <= 0.04045 ? x / 12.92 : ((x + 0.055) / 1.055) ** 2.4
    })
    return 0.2126 * r + 0.7152 * g + 0.0722 * b
  }
  const [x, y] = [luminance(a), luminance(b)]
  return (Math.max(x, y) + 0.05) / (Math.min(x, y) + 0.05)
}

for (const name of Object.keys(palettes) as ThemeName[]) {
  test(`${name}: every pair of text and ground, of rail and ground, can be told apart`, () => {
    const p = palettes[name]
    const low: string[] = []
    const check = (a: keyof typeof p, b: keyof typeof p, least: number): void => {
      const c = contrast(p[a], p[b])
      if (c < least) low.push(`${a} on ${b}: ${c.toFixed(2)}, wanted ${least}`)
    }
    for (const text of ['ink', 'ink2', 'brassText', 'verdigris', 'oxblood', 'ochre'] as const)
      for (const ground of ['ground', 'card', 'sunk', 'picked', 'well'] as const) check(text, ground, 4.5)
    check('onBrass', 'brass', 4.5)
    check('card', 'verdigris', 4.5)
    check('verdigris', 'verdigrisSoft', 4.5)
    for (const line of ['track', 'brass', 'verdigris', 'oxblood'] as const)
      for (const ground of ['card', 'sunk'] as const) check(line, ground, 3)
    expect(low).toEqual([])
  })
}
