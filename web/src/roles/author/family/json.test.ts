import { describe, expect, it } from 'vitest'
import { nameFor, rangeAround, slotFor, typedNumber, valuesOf, variableFor } from './json'

describe('a number that is to vary', () => {
  it('is written as it was', () => {
    expect(rangeAround('1.4')).toEqual([0.9, 1.9, 0.1])
    expect(slotFor('rate', '1.40')).toBe('[[fixed(rate, 2)]]')
    expect(slotFor('start', '07:45')).toBe('[[clock(start)]]')
    expect(variableFor('07:45')).toEqual({ range: [345, 585, 5] })
    expect(variableFor('flood')).toEqual({ pick: ['flood'] })
  })
  it('is called by the last word before it that says something', () => {
    expect(nameFor('The stream runs at ', [])).toBe('runs')
    expect(nameFor('[[boat]] draws ', ['draws'])).toBe('draws2')
    expect(nameFor('', [])).toBe('number')
  })
  it('counts its values, ends included', () => {
    expect(valuesOf([0.2, 2.0, 0.1])).toBe(19)
    expect(valuesOf([1, 'a', 1])).toBeNull()
  })
})

describe('what is typed', () => {
  it('is a number only where it reads as one', () => {
    expect([typedNumber('07'), typedNumber('0.5'), typedNumber('a + b'), typedNumber(' ')]).toEqual(
      ['07', 0.5, 'a + b', undefined],
    )
  })
})
