import { Input, Labelled } from '../../ui/Field'
import { Pick } from './Pick'
import type { NewTest } from './queries'

const WANTED: [NewTest['pages'], string][] = [
  ['none', 'none'],
  ['may', 'learners may add pages'],
  ['must', 'learners must add pages'],
]

/** Whether pages of paper are added after handing in, and for how long. */
export function ComposePaper({
  test,
  onChange,
}: {
  test: NewTest
  onChange: (next: Partial<NewTest>) => void
}) {
  return (
    <fieldset className="mt-8">
      <legend className="font-heading text-xl font-semibold">Pages of paper</legend>
      <div className="mt-2 flex flex-wrap gap-4">
        <Pick
          label="After handing in"
          options={WANTED}
          value={test.pages}
          onChange={(pages) => onChange({ pages: pages as NewTest['pages'] })}
        />
        {test.pages !== 'none' && (
          <Labelled label="Taken for so many minutes">
            <Input
              type="number"
              min={1}
              max={240}
              className="w-28"
              value={test.pages_minutes}
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
