import type { Schemas } from '../../../api/client'
import type { GiveTest, GroupTask, NewTask } from '../queries'

export type Goal = NewTask['goal']
export type Kind = 'test' | Goal['kind']

/** What is about to be given, of whatever kind. */
export interface Giving {
  kind: Kind
  test: number | null
  title: string
  topics: string[]
  families: { key: string; title: string }[]
  questions: number
  subject: string
  sections: Section[]
  asks: NewTask['asks']
  opens: string | null
  due: string | null
  closes: string | null
  pages: Schemas['PagesWanted']
  pages_minutes: number
  mirror_early: boolean
  learners: number[] | null
  /** Other groups that get it too, when it is set. */
  also: number[]
  first: Section[]
}

export type Section = Schemas['StudyFirst']

const NOTHING_ASKED: NewTask['asks'] = { files: 'none', links: 'none', says: '', points: null }

export const nothingYet = (test: number | null): Giving => ({
  kind: 'test',
  test,
  title: '',
  topics: [],
  families: [],
  questions: 10,
  subject: '',
  sections: [],
  asks: NOTHING_ASKED,
  opens: null,
  due: null,
  closes: null,
  pages: 'none',
  pages_minutes: 20,
  mirror_early: false,
  learners: null,
  also: [],
  first: [],
})

export const ofTest = (given: Schemas['GivenTestOut']): Giving => ({
  ...nothingYet(given.test),
  title: given.title,
  opens: given.opens ?? null,
  due: given.due ?? null,
  closes: given.closes ?? null,
  pages: given.pages,
  pages_minutes: given.pages_minutes,
  mirror_early: given.mirror_early ?? false,
  learners: given.learners ?? null,
  first: given.first ?? [],
})

function ofGoal(goal: Goal, titles: Giving['families'] = []) {
  const families = 'families' in goal ? goal.families : []
  return {
    kind: goal.kind,
    topics: 'topics' in goal ? goal.topics : [],
    families: families.map((key) => titles.find((one) => one.key === key) ?? { key, title: key }),
    questions: 'questions' in goal ? goal.questions : 10,
    subject: 'subject' in goal ? (goal.subject ?? '') : '',
    sections: 'sections' in goal ? goal.sections : [],
  }
}

export const ofTask = (task: GroupTask, copy: boolean): Giving => {
  return {
    ...nothingYet(null),
    ...ofGoal(task.goal),
    title: task.title,
    opens: copy ? null : task.opens,
    due: copy ? null : task.due,
    closes: copy ? null : task.closes,
    learners: task.whole_group || copy ? null : task.learners.map((one) => one.learner),
    first: task.first,
    asks: task.asks,
  }
}

/** As a change of what was set is sent, and back. */
export function asChange(giving: Giving): object {
  const test = asTest(giving)
  const { also: _also, ...rest } = test ?? asTask(giving) ?? { also: [] }
  if (!('test' in rest)) return rest
  const { test: _test, ...change } = rest
  return change
}

export function ofChange(body: object, giving: Giving): Giving {
  const { goal, ...rest } = body as Partial<NewTask>
  return { ...giving, ...rest, ...(goal && ofGoal(goal, giving.families)) } as Giving
}

/** As a request, once there is enough of it to ask what it would be. */
export function asTest(giving: Giving): GiveTest | null {
  if (giving.kind !== 'test' || giving.test === null) return null
  const { test, opens, due, closes, pages, pages_minutes, mirror_early, learners, first } = giving
  const also = learners === null ? giving.also : []
  return { test, opens, due, closes, pages, pages_minutes, mirror_early, learners, first, also }
}

export function asTask(giving: Giving): NewTask | null {
  const goal = goalOf(giving)
  if (goal === null) return null
  const { title, opens, due, closes, learners, first, asks } = giving
  const also = learners === null ? giving.also : []
  return { title, goal, opens, due, closes, learners, first, asks, also }
}

function goalOf(giving: Giving): Goal | null {
  const { kind, topics, families, questions, subject, sections } = giving
  switch (kind) {
    case 'target':
      return topics.length > 0 ? { kind, topics } : null
    case 'ideas':
      return families.length > 0 ? { kind, families: families.map((one) => one.key) } : null
    case 'questions':
      return topics.length > 0 ? { kind, topics, questions } : null
    case 'diagnostic':
      return { kind, subject: subject || null }
    case 'hand_in':
      return { kind }
    case 'study':
      return sections.length > 0 ? { kind, sections } : null
    default:
      return null
  }
}
