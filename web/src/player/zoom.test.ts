import { describe, expect, it } from 'vitest'
import { bounded, MOST, moved, WHOLE, zoomed } from './zoom'

const ROOM = { width: 800, height: 600 }

describe('looking closely at a drawing', () => {
  it('keeps in its place what is under the pointer', () => {
    const at = { x: 120, y: -80 }
    let view = WHOLE
    for (const factor of [1.5, 2, 0.8]) {
      const before = { x: (at.x - view.x) / view.scale, y: (at.y - view.y) / view.scale }
      view = zoomed(view, factor, at, ROOM)
      expect((at.x - view.x) / view.scale).toBeCloseTo(before.x)
      expect((at.y - view.y) / view.scale).toBeCloseTo(before.y)
    }
  })

  it('never loses it out of sight, nor goes further than it may', () => {
    expect(moved(WHOLE, 500, 500, ROOM)).toEqual(WHOLE)
    expect(zoomed(WHOLE, 0.5, { x: 0, y: 0 }, ROOM)).toEqual(WHOLE)
    const close = zoomed(WHOLE, 100, { x: 0, y: 0 }, ROOM)
    expect(close.scale).toBe(MOST)
    expect(moved(close, 1e6, -1e6, ROOM)).toMatchObject({ x: 2800, y: -2100 })
    expect(bounded({ scale: 2, x: 999, y: 0 }, ROOM).x).toBe(400)
  })
})
