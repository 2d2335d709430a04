import { describe, expect, it } from 'vitest'
import { cornerOf, drawn, grown, moved, regionOf, written } from './regions'

describe('places on a figure', () => {
  it('are read where they are numbers, and left alone where a formula says them', () => {
    expect(regionOf({ circle: [80, 60, 20] })).toEqual({ shape: 'circle', numbers: [80, 60, 20] })
    expect(regionOf({ circle: ['40 + a', 60, 20] })).toBeNull()
    expect(regionOf({ rect: [1, 2, 3] })).toBeNull()
    expect(regionOf(undefined)).toBeNull()
  })

  it('are drawn from the middle of a circle, and from corner to corner of a rectangle', () => {
    expect(drawn('circle', { x: 10, y: 10 }, { x: 13, y: 14 }).numbers).toEqual([10, 10, 5])
    const back = drawn('rect', { x: 50, y: 40 }, { x: 20, y: 60 })
    expect(back.numbers).toEqual([20, 40, 30, 20])
    expect(cornerOf(back)).toEqual({ x: 50, y: 40 })
  })

  it('never vanish, and are written with one decimal at most', () => {
    const small = grown({ shape: 'circle', numbers: [5, 5, 3] }, -10)
    expect(small.numbers).toEqual([5, 5, 2])
    expect(written(moved(small, { x: 0.333, y: -1 }))).toEqual({ circle: [5.3, 4, 2] })
  })
})
