import { describe, expect, it } from 'vitest'
import { isMarked, markOf, sumOf } from './marks'
import type { Part } from './queries'

describe('what a marker is about to give', () => {
  const given = (points: Record<number, string>) =>
    ({ points, comment: 'Good.', notes: [] }) as unknown as Part['first']
  const part = (more: Partial<Part>) =>
    ({ first: null, second: null, agreed: null, ...more }) as unknown as Part

  it('begins with what the same role gave before, and settles from what the first gave', () => {
    const both = part({
      first: given({ 0: '2', 1: '1' }),
      second: given({ 0: '1' }),
    })
    expect(markOf(both, 'first').points).toEqual({ 0: '2', 1: '1' })
    expect(markOf(both, 'second').points).toEqual({ 0: '1' })
    expect(markOf(both, 'agreed').points).toEqual({ 0: '2', 1: '1' })
    expect(markOf(part({}), 'first')).toEqual({ points: {}, comment: '', notes: [] })
  })

  it('is marked only where the role itself has', () => {
    const one = part({ first: given({ 0: '2' }) })
    expect([isMarked(one, 'first'), isMarked(one, 'second')]).toEqual([true, false])
  })

  it('adds up what is a number', () => {
    expect(sumOf({ 0: '2', 1: '0.5', 2: '' })).toBe(2.5)
  })
})
