import { t } from '@lingui/core/macro'
import type { Question } from '../api/client'
import { ACTIVITIES } from './descriptors'
import type { Sheet } from './requests'
import type { RunActions } from './useRun'

export interface Step {
  label: string
  hint?: string
  act: () => void
}

export interface Ways {
  /** Whether the study section was opened from here. */
  read: boolean
  onRead: () => void
  onTryAgain: () => void
  /** To the minutes that this is a piece of, once they are over. */
  onTimeUp: () => void
}

/**
 * What follows an answer: what Enter does and the first button says. Nothing where the activity
 * has ways on of its own.
 */
export function onward(
  sheet: Sheet,
  question: Question,
  actions: Pick<RunActions, 'goOn' | 'next'>,
  { read, onRead, onTryAgain, onTimeUp }: Ways,
): Step | null {
  if (!question.closed) {
    const nothing = sheet.feedback?.verdict === 'not_counted'
    return { label: nothing ? t`Back to the question` : t`Try again`, act: onTryAgain }
  }
  if (sheet.run.time_is_up) return { label: t`Time’s up: go on`, act: onTimeUp }
  if (sheet.run.study_first) {
    if (!read) return { label: t`Read about it`, hint: 'R', act: onRead }
    return { label: t`Next question`, act: actions.goOn }
  }
  if (sheet.next) return { label: t`Next question`, act: actions.next }
  const { atTheEnd } = ACTIVITIES[sheet.run.purpose]
  return atTheEnd === null ? null : { label: atTheEnd, act: actions.next }
}
