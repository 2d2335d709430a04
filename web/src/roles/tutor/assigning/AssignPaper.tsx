import { t } from '@lingui/core/macro'
import { Input, Labelled } from '../../../ui/Field'
import { Pick } from '../../composing/Pick'
import type { Giving } from './assignment'

const WANTED: [Giving['pages'], string][] = [
  ['none', 'none'],
  ['may', t`learners may add pages`],
  ['must', t`learners must add pages`],
]

/** Whether pages of paper are added after handing in, and for how long. */
export function AssignPaper({
  giving,
  onChange,
}: {
  giving: Giving
  onChange: (next: Partial<Giving>) => void
}) {
  return (
    <fieldset className="mt-8">
      <legend className="font-heading text-xl font-semibold">{t`Pages of paper`}</legend>
      <div className="mt-2 flex flex-wrap gap-4">
        <Pick
          label={t`After handing in`}
          options={WANTED}
          value={giving.pages}
          onChange={(pages) => onChange({ pages: pages as Giving['pages'] })}
        />
        {giving.pages !== 'none' && (
          <Labelled label={t`Upload time (minutes)`}>
            <Input
              type="number"
              min={1}
              max={240}
              className="w-28"
              value={giving.pages_minutes}
              onChange={(event) =>
                onChange({ pages_minutes: Math.min(240, Math.max(1, Number(event.target.value))) })
              }
            />
          </Labelled>
        )}
      </div>
    </fieldset>
  )
}
