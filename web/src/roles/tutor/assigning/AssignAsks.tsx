import { t } from '@lingui/core/macro'
import { Input, Labelled, TextArea } from '../../../ui/Field'
import { Pick } from '../../composing/Pick'
import type { Giving } from './assignment'

const WANTED: [Giving['asks']['files'], string][] = [
  ['none', t`not asked for`],
  ['may', t`learners may add some`],
  ['must', t`learners must add some`],
]
const MOST_POINTS = 100

/** What is handed in with a piece of work: files, links, what they should be, and its points. */
export function AssignAsks({
  giving,
  problems,
  onChange,
}: {
  giving: Giving
  problems: Record<string, string>
  onChange: (next: Partial<Giving>) => void
}) {
  const { asks } = giving
  const change = (next: Partial<Giving['asks']>) => onChange({ asks: { ...asks, ...next } })
  const anything = asks.files !== 'none' || asks.links !== 'none'
  return (
    <fieldset className="mt-8">
      <legend className="font-heading text-xl font-semibold">{t`Handing in`}</legend>
      <div className="mt-2 flex flex-wrap gap-4">
        <Pick
          label={t`Files`}
          options={WANTED}
          value={asks.files}
          problem={problems['asks.files']}
          onChange={(files) => change({ files: files as typeof asks.files })}
        />
        <Pick
          label={t`Links`}
          options={WANTED}
          value={asks.links}
          onChange={(links) => change({ links: links as typeof asks.links })}
        />
        {anything && (
          <Labelled label={t`Points (optional)`}>
            <Input
              type="number"
              min={1}
              max={MOST_POINTS}
              className="w-28"
              value={asks.points ?? ''}
              onChange={(event) => {
                const points = Math.min(MOST_POINTS, Math.max(0, Number(event.target.value)))
                change({ points: points || null })
              }}
            />
          </Labelled>
        )}
      </div>
      {anything && (
        <Labelled label={t`What to hand in (optional)`} className="mt-3 max-w-2xl">
          <TextArea
            rows={3}
            maxLength={4000}
            value={asks.says}
            onChange={(event) => change({ says: event.target.value })}
          />
        </Labelled>
      )}
    </fieldset>
  )
}
