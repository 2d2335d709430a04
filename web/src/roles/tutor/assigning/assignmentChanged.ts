import { t } from '@lingui/core/macro'
import { plain } from '../../../account/ChangedNote'
import type { Json } from '../../../account/merging'
import type { Schemas } from '../../../api/client'
import { moment } from '../../../ui/words'
import type { Goal, Section } from './assignment'

const LABELS: Record<string, string> = {
  title: t`Title`,
  goal: t`What is to be done`,
  opens: t`Opens`,
  due: t`Due`,
  closes: t`Closes`,
  pages: t`Pages of paper`,
  pages_minutes: t`Minutes for the pages`,
  mirror_early: t`Practice with new numbers before the test`,
  learners: t`For whom`,
  first: t`To study first`,
  'asks.files': t`Files to hand in`,
  'asks.links': t`Links to hand in`,
  'asks.says': t`What to hand in`,
  'asks.points': t`Points`,
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
            .map((id) => group.learners.find((one) => one.id === id)?.name ?? t`somebody else`)
            .join(', ')
        : t`the whole group`
    if (typeof value === 'string' && ['opens', 'due', 'closes'].includes(path)) return moment(value)
    if (path === 'first' && Array.isArray(value))
      return sections(value as unknown as Section[]).join(', ') || 'nothing'
    if (path === 'goal' && value) {
      const goal = value as unknown as Goal
      if ('sections' in goal) return t`Read ${sections(goal.sections).join(', ')}`
      if ('families' in goal) return t`Ideas: ${goal.families.join(', ')}`
      if ('questions' in goal)
        return t`${goal.questions} questions of ${goal.topics.map(titleOf).join(', ')}`
      if ('topics' in goal)
        return t`Until the target is met in ${goal.topics.map(titleOf).join(', ')}`
      if (goal.kind === 'hand_in') return t`Work to hand in`
      return t`A diagnostic`
    }
    return plain(path, value)
  }
