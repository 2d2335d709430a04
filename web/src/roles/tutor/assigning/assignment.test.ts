import { describe, expect, it } from 'vitest'
import type { GroupTask } from '../queries'
import { asTask, asTest, nothingYet, ofTask } from './assignment'

const SECTION = { topic: 'tides', section: 'range' }

describe('work about to be set', () => {
  it('is no request before there is enough of it', () => {
    expect(asTest(nothingYet(null))).toBeNull()
    expect(asTask(nothingYet(7))).toBeNull()
    for (const kind of ['target', 'ideas', 'questions', 'study'] as const)
      expect(asTask({ ...nothingYet(null), kind })).toBeNull()
  })

  it('asks for what its kind wants and nothing else', () => {
    const all = {
      ...nothingYet(7),
      topics: ['tides'],
      families: [{ key: 'range', title: 'Range' }],
      sections: [SECTION],
    }
    const goal = (kind: typeof all.kind) => asTask({ ...all, kind })?.goal
    expect(asTest(all)?.test).toBe(7)
    expect(goal('target')).toEqual({ kind: 'target', topics: ['tides'] })
    expect(goal('ideas')).toEqual({ kind: 'ideas', families: ['range'] })
    expect(goal('questions')).toEqual({ kind: 'questions', topics: ['tides'], questions: 10 })
    expect(goal('diagnostic')).toEqual({ kind: 'diagnostic', subject: null })
    expect(goal('study')).toEqual({ kind: 'study', sections: [SECTION] })
    expect(goal('test')).toBeUndefined()
  })

  it('is set again without the dates and learners it had', () => {
    const task = {
      title: 'Tides',
      goal: { kind: 'questions', topics: ['tides'], questions: 4 },
      opens: null,
      due: '2026-03-02T18:00:00Z',
      closes: null,
      whole_group: false,
      first: [SECTION],
      learners: [{ learner: 3 }],
    } as unknown as GroupTask
    expect(ofTask(task, false)).toMatchObject({ due: task.due, learners: [3], questions: 4 })
    expect(ofTask(task, true)).toMatchObject({ due: null, learners: null, first: [SECTION] })
  })
})
