import { describe, expect, it } from 'vitest'
import { CannotWorkOut, workOut } from './calculate'

const basic = (typed: string, ans = 0) => workOut(typed, 'basic', 'degrees', ans)
const scientific = (typed: string) => workOut(typed, 'scientific', 'degrees', 0)

describe('the calculator', () => {
  it('keeps the usual order of operations', () => {
    expect(basic('2 + 3 × 4')).toBe(14)
    expect(basic('(2 + 3) × 4 ÷ 8')).toBe(2.5)
    expect(basic('2^3^2')).toBe(512)
    expect(basic('-3²')).toBe(-9)
    expect(basic('√(16) + ans', 5)).toBe(9)
  })
  it('shows no crumbs of binary fractions', () => {
    expect(basic('0.1 + 0.2')).toBe(0.3)
    expect(basic('1 ÷ 3')).toBe(0.333333333333)
  })
  it('takes a decimal comma, as answers do', () => {
    expect(basic('3,5 × 2')).toBe(7)
    expect(basic('0,125 × 8')).toBe(1)
  })
  it('knows angles and logarithms only as a scientific one', () => {
    expect(scientific('sin(30)')).toBe(0.5)
    expect(scientific('atan(1)')).toBe(45)
    expect(workOut('cos(π)', 'scientific', 'radians', 0)).toBe(-1)
    expect(scientific('ln(e) + log(1000)')).toBe(4)
    expect(() => basic('sin(30)')).toThrow('“sin” is not known here.')
  })
  it('says what is wrong', () => {
    expect(() => basic('1 ÷ 0')).toThrow('no such number')
    expect(() => basic('2 +')).toThrow('missing or too much')
    expect(() => basic('12:30 − 11:00')).toThrow('not times')
    expect(() => basic('1,111 + 1')).toThrow('between thousands')
    for (const odd of ['f(x) = 2', '[1, 2]', '"a"', 'import("x")', 'ans.constructor', '2 > 1'])
      expect(() => scientific(odd)).toThrow(CannotWorkOut)
  })
})
