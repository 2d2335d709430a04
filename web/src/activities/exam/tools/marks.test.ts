import { expect, it } from 'vitest'
import { toggled, wordsMarked } from './marks'

const words = [...'The tide turns at noon'.matchAll(/\S+/g)].map((found) => ({
  from: found.index,
  length: found[0].length,
}))

it('keeps words side by side as one stretch', () => {
  const marked = toggled(toggled([], words, 1, 1), words, 2, 3)
  expect(marked).toEqual([{ at: 4, length: 13 }])
  expect(wordsMarked(marked, words)).toEqual(new Set([1, 2, 3]))
})

it('takes marks off only where all the words were marked', () => {
  const marked = toggled([], words, 0, 2)
  expect(toggled(marked, words, 2, 3)).toEqual([{ at: 0, length: 17 }])
  expect(toggled(marked, words, 1, 1)).toEqual([
    { at: 0, length: 3 },
    { at: 9, length: 5 },
  ])
})
