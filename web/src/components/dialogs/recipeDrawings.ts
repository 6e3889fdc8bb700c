/** A part of the small moving drawing of a recipe, on a field of 44 by 24. */
export interface Part {
  shape: 'dot' | 'bar' | 'line' | 'ring' | 'flat'
  at: [x: number, y: number]
  size?: number
  /** How it moves: one of the movements of the style sheet; absent: it stands still. */
  move?: 'rise' | 'sway' | 'turn' | 'back' | 'blink' | 'slide' | 'grow' | 'stretch' | 'swing' | 'orbit' | 'far' | 'thin'
  /** Which share of the round it is late by. */
  late?: number
  faint?: boolean
}

const row = (n: number, part: (k: number) => Omit<Part, 'at'> & { y?: number }): Part[] =>
  Array.from({ length: n }, (_, k) => {
    const { y = 12, ...rest } = part(k)
    return { at: [7 + (k * 30) / (n - 1), y], ...rest }
  })

/** The drawings, by the keys of the recipes of the core. One that has none shows nothing. */
export const drawings: Record<string, Part[]> = {
  'sweep in': row(4, (k) => ({ shape: 'bar', move: 'rise', late: k / 8 })),
  trail: row(4, (k) => ({ shape: 'dot', move: 'sway', late: k / 8 })),
  wave: row(6, (k) => ({ shape: 'dot', size: 4, move: 'sway', late: k / 6 })),
  flicker: row(3, (k) => ({ shape: 'dot', move: 'blink', late: (k * 7) / 10 })),
  'spread over': row(4, (k) => ({ shape: 'bar', move: 'swing', late: -k / 9 })),
  orbit: [0, 1, 2].map((k) => ({ shape: 'dot', size: 4, at: [22, 12], move: 'orbit', late: k / 3 })),
  'aim at': [...row(3, () => ({ shape: 'line', y: 16, move: 'swing' })), { shape: 'ring', at: [22, 4], size: 4, move: 'slide' }],
  'gear ratio': [
    { shape: 'line', at: [14, 12], size: 16, move: 'turn' },
    { shape: 'ring', at: [14, 12], size: 16 },
    { shape: 'line', at: [31, 12], size: 9, move: 'back' },
    { shape: 'ring', at: [31, 12], size: 9 },
  ],
  'along a path': [
    { shape: 'flat', at: [22, 12], size: 34, faint: true },
    ...row(3, (k) => ({ shape: 'dot', size: 5, move: 'slide', late: k / 12 })),
  ],
  'rows that trail': [0, 1, 2].map((k) => ({ shape: 'line', at: [22, 5 + 7 * k], size: 22, move: 'swing', late: k / 6 })),
  'cast shadows': [
    { shape: 'bar', at: [22, 10] },
    { shape: 'flat', at: [22, 20], size: 16, move: 'slide', faint: true },
    { shape: 'ring', at: [22, 3], size: 4, move: 'far' },
  ],
  sequence: row(4, (k) => ({ shape: 'bar', move: 'grow', late: k / 5 })),
  'stretch between': [
    { shape: 'flat', at: [22, 12], size: 26, move: 'stretch' },
    { shape: 'ring', at: [6, 12], size: 5 },
  ],
  'gather controls': row(3, (k) => ({ shape: 'flat', size: 10, y: 5 + 7 * k, move: 'slide', late: k / 5 })),
  'scrub frames': row(3, (k) => ({ shape: 'bar', move: 'blink', late: k / 3 })),
  loosen: [
    { shape: 'ring', at: [10, 12], size: 6 },
    { shape: 'dot', at: [26, 12], move: 'slide' },
  ],
  'keep line widths': [{ shape: 'ring', at: [22, 12], size: 12, move: 'thin' }],
}
