import { t } from '@lingui/core/macro'
import { Link } from 'react-router'
import type { Schemas } from '../../../api/client'
import { buttonClass } from '../../../ui/Button'
import { fieldClass, Labelled } from '../../../ui/Field'
import { counted } from '../../../ui/words'
import type { Giving } from './assignment'

/** One of the tests of the course, or the way to a new one. */
export function TestPicker({
  group,
  list,
  chosen,
  onChange,
}: {
  group: Schemas['GroupOut']
  list: Schemas['ComposedListOut']
  chosen: number | null
  onChange: (next: Partial<Giving>) => void
}) {
  return (
    <div className="mt-4 flex flex-wrap items-end gap-3">
      <Labelled label={t`Which`} className="min-w-60 flex-1">
        <select
          className={`${fieldClass} w-full min-w-0`}
          value={chosen ?? ''}
          onChange={(event) =>
            onChange({ test: event.target.value ? Number(event.target.value) : null })
          }
        >
          <option value="">{t`choose`}</option>
          {list.tests.map((one) => (
            <option key={one.id} value={one.id}>
              {t`${one.title} (${counted(one.questions, 'question')}, ${one.minutes} min)`}
            </option>
          ))}
        </select>
      </Labelled>
      <Link
        to={`/tutor/tests/${group.course}/new?group=${group.id}`}
        className={buttonClass('plain')}
      >{t`Compose a new one`}</Link>
      {chosen !== null && (
        <Link
          to={`/tutor/tests/${group.course}/new?group=${group.id}&from=${chosen}`}
          className={buttonClass('quiet')}
        >{t`Copy and change it`}</Link>
      )}
    </div>
  )
}
