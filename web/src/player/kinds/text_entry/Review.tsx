import { t } from '@lingui/core/macro'
import { Sign } from '../../../ui/Sign'
import type { ReviewProps } from '../view'

/** Beside the field: right or wrong, and what it is. */
export function Review({ state }: ReviewProps<'text_entry'>) {
  return (
    <>
      {state.state === 'right' && <Sign kind="right" />}
      {state.state === 'closed' && <Sign kind="wrong" />}
      {state.state === 'unanswered' && (
        <>
          <Sign kind="note" word={false} />
          <span>{t`Not answered.`}</span>
        </>
      )}
      {state.state !== 'right' && state.right_answer && (
        <span>
          {t`It is`} <strong className="tabular-nums">{state.right_answer}</strong>
        </span>
      )}
    </>
  )
}
