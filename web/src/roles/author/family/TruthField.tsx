import { t } from '@lingui/core/macro'
import { fieldClass, Labelled } from '../../../ui/Field'
import { textOf } from './json'
import type { FieldProps } from './kinds'
import { LineField } from './LineField'

/** Whether something is right: always, never, or when an expression says so. */
export function TruthField({ field, value, onChange, path }: FieldProps) {
  const when = typeof value === 'string'
  return (
    <div className="grid content-start gap-2">
      <Labelled label={field.label}>
        <select
          className={fieldClass}
          value={when ? 'when' : textOf(value === true)}
          onChange={({ target }) =>
            onChange(target.value === 'when' ? 'a > 1' : target.value === 'true')
          }
        >
          <option value="true">{t`right`}</option>
          <option value="false">{t`wrong`}</option>
          <option value="when">{t`right when …`}</option>
        </select>
      </Labelled>
      {when && (
        <LineField
          field={{ name: field.name, label: t`Right when`, as: 'expression' }}
          value={value}
          onChange={onChange}
          path={path}
        />
      )}
    </div>
  )
}
