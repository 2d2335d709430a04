import { expect, test } from 'vitest'
import { nextCell } from './cells'

const at: [number, number] = [3, 2]

test('keys lead from cell to cell and not out of the table', () => {
  expect(nextCell('ArrowDown', at, 60, 30)).toEqual([4, 2])
  expect(nextCell('ArrowUp', [0, 2], 60, 30)).toEqual([0, 2])
  expect(nextCell('ArrowRight', [3, 29], 60, 30)).toEqual([3, 29])
  expect(nextCell('ArrowLeft', at, 60, 30)).toEqual([3, 1])
  expect(nextCell('Home', at, 60, 30)).toEqual([3, 0])
  expect(nextCell('End', at, 60, 30)).toEqual([3, 29])
  expect(nextCell('PageDown', [55, 1], 60, 30)).toEqual([59, 1])
  expect(nextCell('PageUp', [55, 1], 60, 30)).toEqual([45, 1])
  expect(nextCell('a', at, 60, 30)).toBeNull()
})
