import type { Schemas } from '../api/client'

/** The working area: typed lines and the strokes of a sketch. */
export type Working = Schemas['WorkingNote']

export const NO_WORKING: Working = { lines: '', strokes: [] }

/** The sheet that sketches are drawn on, in its own units. */
export const SHEET = { width: 800, height: 500 }

/** A stroke, kept as "x,y x,y", as a path to draw. */
export const strokePath = (stroke: string) =>
  stroke
    .split(' ')
    .map((point, i) => `${i ? 'L' : 'M'}${point.replace(',', ' ')}`)
    .join('')
