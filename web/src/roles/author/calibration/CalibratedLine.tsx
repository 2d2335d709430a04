import { t } from '@lingui/core/macro'
import { useState } from 'react'
import { Button } from '../../../ui/Button'
import { DriftBar } from '../../../ui/DriftBar'
import { TextLink } from '../../../ui/TextLink'
import { counted } from '../../../ui/words'
import { Curves } from './Curves'
import type { Calibrated } from './queries'

interface Props {
  course: string
  line: Calibrated
  disabled: boolean
  onAccept: () => void
  onUndo: () => void
}

/** A question: its difficulty now is the post, what its answers say is the bar. */
export function CalibratedLine({ course, line, disabled, onAccept, onUndo }: Props) {
  const [open, setOpen] = useState(false)
  const { proposed, present } = line
  const { middle, low, high } = proposed ?? { middle: present, low: present, high: present }
  const says = proposed
    ? t`difficulty now ${Math.round(present)} of 100, from answers ${Math.round(middle)}, probably between ${Math.round(low)} and ${Math.round(high)}`
    : t`difficulty ${Math.round(present)} of 100, left as it is`
  return (
    <li className="rounded-box bg-sheet p-4">
      <div className="grid items-center gap-x-5 gap-y-2 @4xl:grid-cols-[minmax(0,1fr)_16rem_auto]">
        <div>
          <TextLink to={`/author/bank/${course}/${line.key}`} className="font-semibold">
            {line.title}
          </TextLink>
          <p className="text-ink-2">
            {line.topic.title}, {counted(line.answers, 'answer')}
          </p>
        </div>
        <DriftBar
          name={line.title}
          says={says}
          bare={!proposed}
          reading={{ level: proposed ? middle : null, middle, low, high, target: present }}
        />
        <div className="flex flex-wrap items-center gap-2">
          <Button
            kind="quiet"
            aria-expanded={open}
            aria-label={t`Curve of ${line.title}`}
            onClick={() => setOpen(!open)}
          >{t`Curve`}</Button>
          {proposed && !line.accepted && (
            <Button
              disabled={disabled}
              aria-label={t`Accept ${line.title}`}
              onClick={onAccept}
            >{t`Accept`}</Button>
          )}
          {line.accepted && (
            <>
              <span className="text-correct">{t`in use`}</span>
              <Button
                kind="quiet"
                disabled={disabled}
                aria-label={t`Undo ${line.title}`}
                onClick={onUndo}
              >{t`Undo`}</Button>
            </>
          )}
        </div>
      </div>
      {[...line.asks, ...line.why].map((one) => (
        <p key={one} className="mt-1 text-ink-2">
          {one}
        </p>
      ))}
      {open && <Curves course={course} family={line.key} />}
    </li>
  )
}
