import { describe, expect, it } from 'vitest'
import { compare, merged } from './merging'

const base = { title: 'Tuesday', tries: 3, targets: { buoyage: 80, tides: 85 }, not_taught: ['a'] }

describe('two changes of the same thing', () => {
  it('takes what only the others changed and asks about what both did', () => {
    const mine = { ...base, title: 'Wednesday', tries: 2 }
    const theirs = { ...base, title: 'Thursday', targets: { buoyage: 90 }, not_taught: ['a', 'b'] }
    const found = compare(base, mine, theirs, [])
    expect(found.taken).toEqual(['targets.buoyage', 'targets.tides', 'not_taught'])
    expect(found.both).toEqual([{ path: 'title', mine: 'Wednesday', theirs: 'Thursday' }])
    const whole = { ...mine, targets: { buoyage: 90 }, not_taught: ['a', 'b'] }
    expect(merged(mine, theirs, found, {})).toEqual(whole)
    expect(merged(mine, theirs, found, { title: 'theirs' }).title).toBe('Thursday')
  })

  it('asks nothing where both did the same, and keeps what a branch holds together', () => {
    const goal = { kind: 'target', topics: ['tides'] }
    const mine = { goal: { kind: 'questions', topics: ['tides'], questions: 5 }, due: null }
    const theirs = { goal: { kind: 'study', sections: [] }, due: null }
    expect(compare({ goal }, { goal, due: 'x' }, { goal, due: 'x' }, [])).toEqual({
      taken: [],
      both: [],
    })
    const found = compare({ goal, due: null }, mine, theirs, ['goal'])
    expect(found.both.map((one) => one.path)).toEqual(['goal'])
    expect(merged(mine, theirs, found, { goal: 'theirs' }).goal).toEqual(theirs.goal)
  })
})
