import { plain } from '../../../account/ChangedNote'
import type { Json } from '../../../account/merging'
import type { Schemas } from '../../../api/client'
import { moment } from '../../../ui/words'
import type { Goal, Section } from './assignment'

const LABELS: Record<string, string> = {
  title: 'Title',
  goal: 'What is to be done',
  opens: 'Opens',
  due: 'Due',
  closes: 'Closes',
  pages: 'Pages of paper',
  pages_minutes: 'Minutes for the pages',
  mirror_early: 'The mirror before the test',
  learners: 'For whom',
  first: 'To study first',
}

/** What a field of set work is called where two changes of it are put together. */
export const labelOf = (path: string) => LABELS[path] ?? path

/** A value of it in words. */
export const wordsOf =
  (group: Schemas['GroupOut'], list: Schemas['ComposedListOut']) =>
  (path: string, value: Json | undefined): string => {
    const titleOf = (key: string) => list.topics.find((one) => one.key === key)?.title ?? key
    const sections = (of: Section[]) => of.map((one) => `${titleOf(one.topic)}: ${one.section}`)
    if (path === 'learners')
      return Array.isArray(value)
        ? value
            .map((id) => group.learners.find((one) => one.id === id)?.name ?? 'somebody else')
            .join(', ')
        : 'the whole group'
    if (typeof value === 'string' && ['opens', 'due', 'closes'].includes(path)) return moment(value)
    if (path === 'first' && Array.isArray(value))
      return sections(value as unknown as Section[]).join(', ') || 'nothing'
    if (path === 'goal' && value) {
      const goal = value as unknown as Goal
      if ('sections' in goal) return `Read ${sections(goal.sections).join(', ')}`
      if ('families' in goal) return `Ideas: ${goal.families.join(', ')}`
      if ('questions' in goal)
        return `${goal.questions} questions of ${goal.topics.map(titleOf).join(', ')}`
      if ('topics' in goal) return `To the target of ${goal.topics.map(titleOf).join(', ')}`
      return 'A diagnostic'
    }
    return plain(path, value)
  }
