import { describe, expect, it } from 'vitest'
import { heightAt, readingOf } from './kinds/points/curves'
import { marksOf, roundMark } from './kinds/shared/marks'
import { fromPairs, fromPoints, linesOf, pairsOf, pointsOf, short } from './values'

describe('responses', () => {
  it('are one value a line, and read as they were written', () => {
    expect(linesOf('a\n\n b\n')).toEqual(['a', ' b'])
    const pairs = new Map([
      ['slot', 'red and white'],
      ['other', ''],
    ])
    expect(pairsOf(fromPairs(pairs)).get('slot')).toBe('red and white')
    const points = [{ x: 0.1 + 0.2, y: -3 }]
    expect(fromPoints(points)).toBe('0.3 -3')
    expect(pointsOf(fromPoints(points))).toEqual([{ x: 0.3, y: -3 }])
    expect(short(1e-9)).toBe('0')
  })
})

describe('a tide curve', () => {
  const low = { x: 0, y: 1 }
  const high = { x: 360, y: 5 }

  it('passes half way between low and high water half way in time, and starts slowly', () => {
    expect(heightAt('tide', [high, low], 180)).toBeCloseTo(3)
    const early = heightAt('tide', [low, high], 60) ?? 0
    const straight = 1 + 4 / 6
    expect(early).toBeGreaterThan(1)
    expect(early).toBeLessThan(straight)
    // The rule of twelfths: about one of twelve in the first hour of six.
    expect((early - 1) / 4).toBeCloseTo(1 / 12, 1)
  })

  it('is not drawn beyond its points, a line is', () => {
    expect(heightAt('tide', [low, high], 400)).toBeNull()
    expect(heightAt('line', [low, high], 720)).toBeCloseTo(9)
  })
})

describe('arrows and scales', () => {
  it('reads length and direction, north up', () => {
    expect(readingOf({ x: 0, y: 0 }, { x: 3, y: 4 }, 'M')).toBe('5.0 M, 037°')
    expect(readingOf({ x: 0, y: 0 }, { x: -1, y: 0 }, 'M')).toBe('1.0 M, 270°')
  })

  it('marks round numbers, 0 among them', () => {
    expect(marksOf(-1, 1, 0.5)).toEqual([-1, -0.5, 0, 0.5, 1])
    expect(roundMark(0, 40)).toBe(5)
    expect(roundMark(0, 0.7)).toBeCloseTo(0.1)
  })
})
