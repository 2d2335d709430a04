import { expect, test } from 'vitest'
import type { Shape } from './queries'
import { before, inSubject, moved, newTopic, numbersIn } from './shape'

const topic = (key: string, ...after: string[]) => ({ ...newTopic(), key, title: key, after })
const shape: Shape = {
  title: 'Knots',
  constants: [1, 2],
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

test('numbers are read once all of them are numbers', () => {
  expect(numbersIn('1, 2,1852 , 0.5')).toEqual([1, 2, 1852, 0.5])
  for (const text of ['', '1,', '1, x', '0, 1', '-2']) expect(numbersIn(text)).toBeNull()
})
