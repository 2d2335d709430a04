import { t } from '@lingui/core/macro'
import { Link } from 'react-router'
import { useTo } from '../../../account/course'
import { type Start, useStart } from '../../../activities/requests'
import type { Step } from '../../../api/client'
import { Button, buttonClass } from '../../../ui/Button'

const VERBS = {
  carry_on: t`Continue`,
  diagnose: t`Start the diagnostic`,
  practise: t`Practise`,
  review: t`Review`,
  study: t`Read`,
  recheck: t`Check`,
  freshen: t`Update`,
  spell: t`Continue`,
} as const

function startOf(step: Step): Start {
  switch (step.kind) {
    case 'diagnose':
      return { purpose: 'diagnostic', subject: step.topic }
    case 'freshen':
      return { purpose: 'diagnostic', fresh: true }
    case 'recheck':
      return { purpose: 'recheck' }
    default:
      return { purpose: 'practice', topics: [step.topic ?? ''] }
  }
}

/** The button of a next step. Only this begins anything. */
export function StepButton({
  step,
  kind,
  minutes,
}: {
  step: Step
  kind: 'strong' | 'plain'
  minutes?: boolean
}) {
  const start = useStart()
  const to = useTo()
  const verb = VERBS[step.kind]
  const label = minutes ? t`${verb}, ${step.minutes} min` : verb
  const named = { 'aria-label': `${verb}: ${step.title}` }
  if (step.kind === 'review')
    return (
      <Link to={to('/review')} className={buttonClass(kind)} {...named}>
        {label}
      </Link>
    )
  if (step.kind === 'study' && step.study)
    return (
      <Link
        to={to(`/study/${step.study.topic}#${step.study.section}`)}
        className={buttonClass(kind)}
        {...named}
      >
        {label}
      </Link>
    )
  if (step.kind === 'spell')
    return (
      <Link to={to(`/spell/${step.run}`)} className={buttonClass(kind)} {...named}>
        {label}
      </Link>
    )
  if (step.run !== null)
    return (
      <Link to={to(`/run/${step.run}`)} className={buttonClass(kind)} {...named}>
        {label}
      </Link>
    )
  return (
    <>
      <Button
        kind={kind}
        disabled={start.isPending}
        onClick={() => start.mutate(startOf(step))}
        {...named}
      >
        {label}
      </Button>
      {start.error && (
        <p role="alert" className="mt-1 text-wrong">
          {start.error.message}
        </p>
      )}
    </>
  )
}
