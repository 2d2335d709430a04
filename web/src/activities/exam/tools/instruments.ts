/** Ruler and protractor as they lie on the page: where, how far turned, and what is read off. */

export type Kind = 'ruler' | 'protractor'

export interface Lying {
  /** The ruler's nought, the protractor's centre, in pixels of the page. */
  x: number
  y: number
  /** Degrees clockwise from lying level, -180 to 180. */
  turn: number
  /** Millimetres along the ruler's edge, or degrees up from the protractor's base. */
  read: number
}

export interface Spot {
  x: number
  y: number
}

/** Pixels of a millimetre: a CSS inch has 96 pixels. */
export const MM = 96 / 25.4
/** Pixels of a rem where nothing is enlarged. */
export const USUAL_REM = 16

const degrees = (radians: number) => (radians * 180) / Math.PI
const direction = (from: Spot, to: Spot) => degrees(Math.atan2(to.y - from.y, to.x - from.x))
const within = (low: number, high: number, value: number) => Math.min(high, Math.max(low, value))

/** An angle between -180 (left out) and 180. */
export const turned = (angle: number) => {
  const whole = ((angle % 360) + 360) % 360
  return whole > 180 ? whole - 360 : whole
}

/** The turn that points the far end at a spot, whole degrees. */
export const turnTowards = (lying: Lying, spot: Spot) => turned(Math.round(direction(lying, spot)))

/** How much larger than at its usual size a figure is shown. The ruler grows with it, so that it
 * reads the same at every size. width: in pixels; rems: its usual width. */
export const scaleOf = (width: number, rems: number) => width / (rems * USUAL_REM)

/** What is read where a spot is held against the instrument. most: its last line; scale: how much
 * larger than usual it is drawn. */
export function readAt(kind: Kind, lying: Lying, spot: Spot, most: number, scale = 1): number {
  const angle = direction(lying, spot) - lying.turn
  if (kind === 'ruler') {
    const away = Math.hypot(spot.x - lying.x, spot.y - lying.y)
    return within(0, most, Math.round((away * Math.cos((angle * Math.PI) / 180)) / (MM * scale)))
  }
  const up = turned(-angle)
  if (up < 0) return up < -90 ? most : 0
  return within(0, most, Math.round(up))
}

/** A reading in words. */
export const readingOf = (kind: Kind, read: number) =>
  kind === 'ruler' ? `${read} mm` : `${read}°`
