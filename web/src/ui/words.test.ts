import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { duration } from './durations'
import { counted, day, inDays, moment, since, untilDay } from './words'

/** Lisbon's clocks went back at two in the morning of 25 October 2026: that day had 25 hours. */
beforeEach(() => {
  vi.stubEnv('TZ', 'Europe/Lisbon')
  vi.useFakeTimers({ now: new Date('2026-10-26T08:00:00Z'), toFake: ['Date'] })
})
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllEnvs()
})

describe('days', () => {
  it('are those of the calendar, however many hours they have', () => {
    expect(day('2026-10-26T00:10:00Z')).toBe('today')
    expect(day('2026-10-24T23:30:00Z')).toBe('yesterday')
    expect(day('2026-10-24T22:30:00Z')).toBe('24 Oct')
    expect(day('2025-10-24T12:00:00Z')).toBe('24 Oct 2025')
    expect(moment('2025-10-24T12:00:00Z')).toMatch(/24 Oct 2025,/)
    expect(inDays('2026-10-24', 2)).toBe('2026-10-26')
    expect(inDays('2026-12-31', 1)).toBe('2027-01-01')
  })

  it('are counted from one to another', () => {
    expect(untilDay('2026-10-24', '2026-10-26')).toBe('in two days')
    expect(untilDay('2026-10-24', '2026-10-25')).toBe('tomorrow')
    expect(untilDay('2026-10-24', '2026-10-20')).toBe('today')
  })
})

it('says how long ago something was, and never that it is to come', () => {
  const ago = (minutes: number) => since(new Date(Date.now() - minutes * 60_000).toISOString())
  expect([-3, 0.2, 89, 91, 35 * 60, 37 * 60].map(ago)).toEqual([
    '1 min',
    '1 min',
    '89 min',
    '2 h',
    '35 h',
    'two days',
  ])
})

it('says how long something took, rounded once', () => {
  expect([0.4, 59.4, 59.6, 125, 3600].map(duration)).toEqual([
    '0 s',
    '59 s',
    '1 min',
    '2 min 5 s',
    '60 min',
  ])
})

it('counts with the right noun', () => {
  expect([0, 1, 2, 11].map((n) => counted(n, 'mistake'))).toEqual([
    'no mistakes',
    'one mistake',
    'two mistakes',
    '11 mistakes',
  ])
})
