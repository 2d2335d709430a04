import type { Schemas } from '../../../api/client'
import type { Point } from '../../values'

type Draws = Schemas['PointsPartOut']['draws']

const sorted = (points: Point[]) => [...points].sort((a, b) => a.x - b.x)

/** Height of a line or curve through points, as the server reads it; null where it is not drawn. */
export function heightAt(draws: Draws, points: Point[], x: number): number | null {
  const known = sorted(points)
  const [first, second] = known
  if (draws === 'line' && first && second && known.length === 2 && first.x !== second.x)
    return first.y + ((second.y - first.y) * (x - first.x)) / (second.x - first.x)
  for (let i = 1; i < known.length; i++) {
    const from = known[i - 1]
    const to = known[i]
    if (!from || !to || x < from.x || x > to.x || from.x === to.x) continue
    const part = (x - from.x) / (to.x - from.x)
    const risen = draws === 'tide' ? (1 - Math.cos(Math.PI * part)) / 2 : part
    return from.y + (to.y - from.y) * risen
  }
  return null
}

/** Points to draw a line or curve through, from edge to edge where it goes on. */
export function traced(draws: Draws, points: Point[], low: number, high: number): Point[] {
  const steps = 96
  return Array.from({ length: steps + 1 }, (_, i) => low + ((high - low) * i) / steps)
    .concat(points.map((point) => point.x))
    .sort((a, b) => a - b)
    .flatMap((x) => {
      const y = heightAt(draws, points, x)
      return y === null ? [] : [{ x, y }]
    })
}

/** A value of an axis as it is read: a number, or a time of day. */
export function axisText(axis: Schemas['AxisOut'], value: number): string {
  if (!axis.clock) return String(value)
  const minutes = Math.round(value)
  return `${String(Math.floor(minutes / 60)).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`
}

/** Length and direction of an arrow, north up: 4.2 M, 083°. */
export function readingOf(from: Point, to: Point, unit: string): string {
  const east = to.x - from.x
  const north = to.y - from.y
  const direction = (Math.round((Math.atan2(east, north) * 180) / Math.PI) + 360) % 360
  return `${Math.hypot(east, north).toFixed(1)} ${unit}, ${String(direction).padStart(3, '0')}°`
}
