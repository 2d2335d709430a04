import type { Given, Things } from './json'

/** A place on a figure, in units of its drawing: a circle by its middle, or a rectangle by a
 * corner. */
export type Region =
  | { shape: 'circle'; numbers: [number, number, number] }
  | { shape: 'rect'; numbers: [number, number, number, number] }

export interface At {
  x: number
  y: number
}

const COUNTS = { circle: 3, rect: 4 } as const
const LEAST = 2

const round = (value: number) => Math.round(value * 10) / 10

/** A place as it stands in a file; null where a formula says where it lies. */
export function regionOf(at: Given): Region | null {
  const all = (at ?? {}) as Things
  for (const shape of ['circle', 'rect'] as const) {
    const numbers = all[shape]
    if (
      Array.isArray(numbers) &&
      numbers.length === COUNTS[shape] &&
      numbers.every((one) => typeof one === 'number')
    )
      return { shape, numbers } as Region
  }
  return null
}

export const written = ({ shape, numbers }: Region): Things => ({ [shape]: numbers.map(round) })

export const moved = (region: Region, by: At): Region => {
  const [x, y, ...rest] = region.numbers
  return { ...region, numbers: [x + by.x, y + by.y, ...rest] } as Region
}

/** Wider and higher by so much, its middle or its corner staying where it is. */
export const grown = (region: Region, by: number): Region => {
  const [x, y, ...sizes] = region.numbers
  return {
    ...region,
    numbers: [x, y, ...sizes.map((size) => Math.max(LEAST, size + by))],
  } as Region
}

/** Drawn from where a pointer was pressed to where it is: from the middle of a circle outwards,
 * from one corner of a rectangle to the other. */
export function drawn(shape: Region['shape'], from: At, to: At): Region {
  const [across, down] = [Math.abs(to.x - from.x), Math.abs(to.y - from.y)]
  if (shape === 'circle')
    return { shape, numbers: [from.x, from.y, Math.max(LEAST, Math.hypot(across, down))] }
  const corner = [Math.min(from.x, to.x), Math.min(from.y, to.y)] as const
  return { shape, numbers: [...corner, Math.max(LEAST, across), Math.max(LEAST, down)] }
}

/** Its upper right, where its number stands without hiding what it marks. */
export function cornerOf({ shape, numbers }: Region): At {
  const [x, y, size] = numbers
  return shape === 'circle' ? { x: x + 0.72 * size, y: y - 0.72 * size } : { x: x + size, y }
}
