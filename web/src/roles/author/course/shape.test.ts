import { expect, test } from 'vitest'
import type { Shape } from './queries'
import { before, inSubject, moved, newTopic } from './shape'

const topic = (key: string, ...after: string[]) => ({ ...newTopic(), key, title: key, after })
const shape: Shape = {
  title: 'Knots',
  subjects: [
    { key: 'ropes', title: 'Ropes', topics: [topic('fibres'), topic('bends', 'fibres')] },
    { key: 'knots', title: 'Knots', topics: [topic('hitches', 'fibres', 'bends')] },
  ],
}

test('a topic can build on those before it, in any subject', () => {
  expect(before(shape, { s: 1, t: 0 }).map(({ key }) => key)).toEqual(['fibres', 'bends'])
  expect(before(shape, { s: 0, t: 0 })).toEqual([])
})

test('nothing is lost by moving', () => {
  expect(moved(['a', 'b', 'c'], 2, 0)).toEqual(['c', 'a', 'b'])
  const next = inSubject(shape, { s: 0, t: 1 }, 1)
  expect(next.map(({ topics }) => topics.map(({ key }) => key))).toEqual([
    ['fibres'],
    ['hitches', 'bends'],
  ])
})
