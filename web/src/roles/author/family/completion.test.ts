import { describe, expect, it } from 'vitest'
import { fieldsAt, within } from './completion'

const FILE = `title: Tide
variables:
  draught: {range: [1, 2, 0.1]}
parts:
  - kind: text_entry
    near_misses:
      - answer: draught
`.split('\n')

describe('fields offered in a file', () => {
  it('are those of the place where somebody types', () => {
    expect(within(FILE.slice(0, 2), 2)).toEqual(['variables'])
    expect(within(FILE.slice(0, 5), 4)).toEqual(['parts', '-'])
    expect(within(FILE.slice(0, 7), 8)).toEqual(['parts', '-', 'near_misses', '-'])
  })
  it('come from the schema of packs', () => {
    expect(Object.keys(fieldsAt([]))).toContain('prompt')
    expect(Object.keys(fieldsAt(['variables', 'draught']))).toEqual(['range', 'pick', 'is'])
    expect(Object.keys(fieldsAt(['parts', '-', 'near_misses', '-']))).toContain('says')
    expect(fieldsAt(['nowhere'])).toEqual({})
  })
})
