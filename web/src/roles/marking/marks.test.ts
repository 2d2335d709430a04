import { describe, expect, it } from 'vitest'
import { isMarked, markOf, type Note, pieces, sumOf } from './marks'
import type { Part } from './queries'

const TEXT = 'Life jackets first, then the radio.'
const note = (at: number, length: number, says = 'look'): Note => ({ at, length, says })

describe('a text with comments set into it', () => {
  it('is cut where they begin and end, and put together again is the text', () => {
    const notes = [note(20, 4), note(0, 12)]
    const found = pieces(TEXT, notes)
    expect(found.map(({ text }) => text).join('')).toBe(TEXT)
    expect(found.filter((one) => one.note).map(({ text }) => text)).toEqual([
      'Life jackets',
      'then',
    ])
  })

  it('loses nothing where comments overlap, lie within one another or reach the end', () => {
    for (const notes of [
      [note(0, 12), note(5, 14)],
      [note(0, 20), note(5, 7)],
      [note(30, 5), note(0, 1)],
      [],
    ])
      expect(
        pieces(TEXT, notes)
          .map(({ text }) => text)
          .join(''),
      ).toBe(TEXT)
  })
})

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
