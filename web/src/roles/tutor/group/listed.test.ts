import { describe, expect, it } from 'vitest'
import { listed, type Row } from './listed'

const row = (name: string, level: number | null, last_at: string | null) =>
  ({ name, last_at, kind: 'working', cells: [{ reading: { level } }] }) as unknown as Row

const ROWS = [row('Vera', 40, null), row('Ana', null, '2026-11-20'), row('Rui', 25, '2026-11-28')]
const names = (by: Parameters<typeof listed>[2], words = '') =>
  listed([...ROWS], words, by, ['tides']).map((one) => one.name)

describe('learners of a group', () => {
  it('come as the server has them, those in most need first', () => {
    expect(names('need')).toEqual(['Vera', 'Ana', 'Rui'])
  })
  it('are sorted by name, by who was there last, and by a topic, unknown levels at the end', () => {
    expect(names('name')).toEqual(['Ana', 'Rui', 'Vera'])
    expect(names('last')).toEqual(['Rui', 'Ana', 'Vera'])
    expect(names('topic:tides')).toEqual(['Rui', 'Vera', 'Ana'])
  })
  it('are found by some letters', () => {
    expect(names('name', ' r')).toEqual(['Rui', 'Vera'])
  })
})
