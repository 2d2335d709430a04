import { describe, expect, it } from 'vitest'
import { type Lying, MM, readAt, scaleOf, turnTowards } from './instruments'

const at = (turn: number): Lying => ({ x: 100, y: 200, turn, read: 0 })
const away = (lying: Lying, degrees: number, pixels: number) => ({
  x: lying.x + pixels * Math.cos((degrees * Math.PI) / 180),
  y: lying.y + pixels * Math.sin((degrees * Math.PI) / 180),
})

describe('a ruler on a figure that is shown larger', () => {
  it('reads the same at every size', () => {
    const lying = { x: 10, y: 20, turn: 0, read: 0 }
    for (const width of [224, 448, 896]) {
      const scale = scaleOf(width, 28)
      const across = 0.5 * width
      expect(readAt('ruler', lying, { x: 10 + across, y: 20 }, 150, scale)).toBe(59)
    }
  })
})

describe('a ruler', () => {
  it('reads millimetres along its edge, however it is turned', () => {
    for (const turn of [0, 30, 90, -135])
      expect(readAt('ruler', at(turn), away(at(turn), turn, 43 * MM), 150)).toBe(43)
  })
  it('reads the foot of what is held beside it, and no further than its lines', () => {
    const right = away(at(0), -60, 40 * MM)
    expect(readAt('ruler', at(0), right, 150)).toBe(20)
    expect(readAt('ruler', at(0), away(at(0), 180, 50), 150)).toBe(0)
    expect(readAt('ruler', at(0), away(at(0), 0, 9000), 150)).toBe(150)
  })
})

describe('a protractor', () => {
  it('reads degrees up from its base, however it is turned', () => {
    for (const turn of [0, 25, -170])
      for (const angle of [0, 1, 67, 90, 179])
        expect(readAt('protractor', at(turn), away(at(turn), turn - angle, 80), 180)).toBe(angle)
  })
  it('reads its nearer end below the base', () => {
    expect(readAt('protractor', at(0), away(at(0), 20, 80), 180)).toBe(0)
    expect(readAt('protractor', at(0), away(at(0), 160, 80), 180)).toBe(180)
  })
})

it('turns towards a spot', () => {
  expect(turnTowards(at(0), away(at(0), -45, 100))).toBe(-45)
  expect(turnTowards(at(10), away(at(10), 180, 100))).toBe(180)
})
