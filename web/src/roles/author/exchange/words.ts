import { t } from '@lingui/core/macro'
import type { ImportLine, Row } from './queries'

/** How an import stands, in a sentence. */
export function stateWords(line: ImportLine): string {
  const { state, questions, done, wrong, skipped, why } = line
  if (line.kind === 'pack') return packWords(line)
  const all = questions === 1 ? t`one question` : t`${questions} questions`
  switch (state) {
    case 'looking':
      return t`Looking through ${all}: ${done} done.`
    case 'storing':
      return t`Taking ${all} into the course.`
    case 'done':
      return done === 1 ? t`One question was taken in.` : t`${done} questions were taken in.`
    case 'undone':
      return t`Taken back.`
    case 'failed':
      return t`Nothing was taken in. ${why}`
    case 'ready':
      return [
        all,
        wrong === 1 ? t`one with problems` : wrong > 0 && t`${wrong} with problems`,
        skipped > 0 && t`${skipped} left out`,
      ]
        .filter(Boolean)
        .join(', ')
  }
}

function packWords({ state, done, why }: ImportLine): string {
  switch (state) {
    case 'looking':
      return done > 0
        ? t`Looking through the pack: ${done} changed questions checked.`
        : t`Looking through the pack.`
    case 'storing':
      return t`Putting the pack in force.`
    case 'failed':
      return t`Nothing was changed. ${why}`
    case 'done':
      return t`In force.`
    default:
      return t`A pack of the course, looked through.`
  }
}

/** What a column is called on the page. */
export function columnWords(column: string): string {
  const named: Record<string, string> = {
    topic: t`Topic`,
    question: t`Question`,
    right: t`Right answer`,
    'feedback right': t`Feedback when right`,
    hint: t`Hint`,
    solution: t`Solution`,
    difficulty: t`Difficulty, 1 to 5`,
    essential: t`Essential`,
    seconds: t`Seconds`,
    picture: t`Picture`,
    replaces: t`Key of the question it replaces`,
    tolerance: t`Tolerance of its numbers`,
  }
  const number = column.at(-1) ?? ''
  if (column.startsWith('feedback wrong')) return t`Feedback to wrong answer ${number}`
  return named[column] ?? t`Wrong answer ${number}`
}

/** Whether the course has an item already. */
export function seenWords(seen: Row['seen']): string {
  switch (seen) {
    case 'same':
      return t`The course has it as it is`
    case 'changed':
      return t`Changed since the course took it in`
    case 'version':
      return t`Another version of a question beside it`
    default:
      return ''
  }
}
