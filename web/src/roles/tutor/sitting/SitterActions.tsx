import { t } from '@lingui/core/macro'
import { useState } from 'react'
import type { Schemas } from '../../../api/client'
import { Button } from '../../../ui/Button'
import type { Step } from './Watching'

type Sitter = Schemas['SittingOut']['learners'][number]

/** What can be done for one learner at a test, as they stand now. */
export function SitterActions({
  one,
  busy,
  onAllow,
  onStep,
  onResume,
  onHandIn,
}: {
  one: Sitter
  busy: boolean
  onAllow: () => void
  onStep: (kind: Step['kind']) => void
  onResume: (attempt: number) => void
  onHandIn: (attempt: number) => void
}) {
  const [sure, setSure] = useState(false)
  const { attempt } = one
  const going = attempt !== null && one.handed_in === null
  const actions: [string, string, () => void][] = [[t`Extra time`, t`Extra time for`, onAllow]]
  if (going && one.state === 'paused')
    actions.push([t`Resume`, t`Resume for`, () => onResume(attempt)])
  if (going && one.state !== 'paused') actions.push([t`Pause`, t`Pause for`, () => onStep('pause')])
  if (going)
    actions.push(
      sure
        ? [
            t`Hand in now`,
            t`Hand in now for`,
            () => {
              onHandIn(attempt)
              setSure(false)
            },
          ]
        : [t`Hand in for them`, t`Hand in for`, () => setSure(true)],
    )
  if (one.handed_in !== null) actions.push([t`Reopen`, t`Reopen for`, () => onStep('reopen')])
  return (
    <span className="-ml-2 flex flex-wrap">
      {actions.map(([words, label, act], n) => (
        <Button
          // biome-ignore lint/suspicious/noArrayIndexKey: what is asked again keeps the focus
          key={n}
          kind="quiet"
          className="text-sm"
          aria-label={`${label} ${one.name}`}
          disabled={busy}
          onClick={act}
        >
          {words}
        </Button>
      ))}
    </span>
  )
}
