import { t } from '@lingui/core/macro'
import type { Question } from '../../api/client'
import { counted } from '../../ui/words'

/** How a question stands that is sent by itself, as far as its test tells. */
export type Sent = 'not_tried' | 'right' | 'partly' | 'wrong' | 'sent'

const WORDS: Record<Sent, string> = {
  not_tried: t`not tried`,
  right: t`right`,
  partly: t`partly right`,
  wrong: t`wrong`,
  sent: t`sent`,
}

export const sentOf = (question: Question): Sent =>
  question.states.some((state) => state.tries > 0) ? (question.outcome ?? 'sent') : 'not_tried'

/** Whether it can be sent again. */
export const hasTriesLeft = (question: Question) => !question.closed && question.tries_left > 0

/** How it stands in words, with the tries that are left where that matters. */
export function sentWords(question: Question): string {
  const how = sentOf(question)
  if (how === 'not_tried' || how === 'right') return WORDS[how]
  if (hasTriesLeft(question)) return t`${WORDS[how]}, ${counted(question.tries_left, 'try')} left`
  return how === 'sent' ? WORDS[how] : t`${WORDS[how]}, no tries left`
}

/** What was sent last, part by part. */
export const lastAnswers = (question: Question): Record<string, string> =>
  Object.fromEntries(
    question.states.filter((state) => state.answer).map((state) => [state.id, state.answer]),
  )
