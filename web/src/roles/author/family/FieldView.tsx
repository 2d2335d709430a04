import { t } from '@lingui/core/macro'
import { useId } from 'react'
import type { Json } from '../../../account/merging'
import { Check } from '../../../ui/Check'
import { fieldClass, Labelled } from '../../../ui/Field'
import { Wrong } from '../../composing/Pick'
import { ChipText } from './ChipText'
import { useFamily } from './context'
import { FigureField } from './FigureField'
import { filledOf, type Given, put, textOf, typedNumber } from './json'
import type { Field, FieldProps } from './kinds'
import { ListField } from './ListField'
import { RegionField } from './RegionField'
import { TableField } from './TableField'

/** One field of a part, edited as its kind says. */
export function FieldView({ field, value, onChange, path, quiet }: FieldProps) {
  const { problemAt } = useFamily()
  const rest = { value, onChange, path }
  switch (field.as) {
    case 'rich':
      return (
        <Boxed label={field.label} quiet={quiet}>
          <ChipText
            label={field.label}
            value={textOf(value)}
            onChange={(text) => onChange(text === '' ? undefined : text)}
            problem={problemAt(path)}
          />
        </Boxed>
      )
    case 'words':
    case 'number':
    case 'expression':
      return <LineField field={field} quiet={quiet} {...rest} />
    case 'list':
      return <ListField field={field} View={FieldView} {...rest} />
    case 'flag':
      return (
        <Check
          on={typeof value === 'boolean' ? value : !!field.usual}
          set={(on) => onChange(on === !!field.usual ? undefined : on)}
        >
          {field.label}
        </Check>
      )
    case 'one':
      return (
        <Labelled label={field.label}>
          <select
            className={fieldClass}
            value={textOf(value) || field.usual}
            onChange={({ target }) =>
              onChange(
                target.value === field.usual
                  ? undefined
                  : field.more === 'number'
                    ? typedNumber(target.value)
                    : target.value,
              )
            }
          >
            {field.of.map(([key, words]) => (
              <option key={key} value={key}>
                {words}
              </option>
            ))}
          </select>
        </Labelled>
      )
    case 'tuple':
      return (
        <Grouped label={field.label} quiet={quiet}>
          {field.of.map((one, place) => (
            <FieldView
              key={one.name}
              field={one}
              value={(value as Json[] | undefined)?.[place]}
              onChange={(next) => {
                const all = field.of.map((_, i) => (value as Json[] | undefined)?.[i] ?? '')
                all[place] = next ?? ''
                onChange(all)
              }}
              path={`${path}.${place}`}
            />
          ))}
        </Grouped>
      )
    case 'group':
      return (
        <Grouped label={field.label} quiet={quiet}>
          <FieldsOf fields={field.of} {...rest} />
        </Grouped>
      )
    case 'figure':
      return <FigureField field={field} {...rest} />
    case 'region':
      return <RegionField field={field} {...rest} />
    case 'table':
      return <TableField field={field} View={FieldView} {...rest} />
  }
}

/** The fields of an object. */
export function FieldsOf({
  fields,
  value,
  onChange,
  path,
}: {
  fields: Field[]
  value: Given
  onChange: (value: Given) => void
  path: string
}) {
  const all = (value ?? {}) as Record<string, Given>
  return fields.map((field) => (
    <FieldView
      key={field.name}
      field={field}
      value={all[field.name]}
      onChange={(next) => onChange(put(all, field.name, next))}
      path={`${path}.${field.name}`}
    />
  ))
}

interface Labelling {
  label: string
  quiet?: boolean | undefined
  children: React.ReactNode
}

/** Fields that belong together, side by side where there is room. */
export function Grouped({ label, quiet, children }: Labelling) {
  return (
    <fieldset className="grid min-w-0 grid-cols-[minmax(0,1fr)] gap-3 @md:grid-cols-2">
      <legend className={quiet ? 'sr-only' : 'mb-1 text-sm text-ink-2'}>{label}</legend>
      {children}
    </fieldset>
  )
}

/** A label over what is no single control. */
function Boxed({ label, quiet, children }: Labelling) {
  return (
    <div className="grid min-w-0 content-start gap-1">
      <span className={quiet ? 'sr-only' : 'text-sm text-ink-2'}>{label}</span>
      {children}
    </div>
  )
}

/** A line of typing; an expression has beside it what it gives in the version on screen. */
function LineField({ field, value, onChange, path, quiet }: FieldProps) {
  const { filled, problemAt } = useFamily()
  const id = useId()
  const problem = problemAt(path)
  const formula = field.as === 'expression'
  const given = formula ? filledOf(filled, value) : undefined
  return (
    <div className="grid min-w-0 content-start gap-1">
      <label className="grid gap-1">
        <span className={quiet ? 'sr-only' : 'text-sm text-ink-2'}>{field.label}</span>
        <input
          className={`${fieldClass} w-full min-w-0 ${formula ? 'font-mono text-[0.95rem]' : ''}`}
          inputMode={field.as === 'number' ? 'decimal' : undefined}
          spellCheck={field.as === 'words'}
          aria-describedby={id}
          aria-invalid={problem ? true : undefined}
          value={textOf(value)}
          onChange={({ target }) =>
            onChange(field.as === 'words' ? target.value || undefined : typedNumber(target.value))
          }
        />
      </label>
      <span id={id} className="empty:hidden">
        {problem ? <Wrong says={problem} /> : given && <Gives shown={given} />}
      </span>
    </div>
  )
}

function Gives({ shown }: { shown: string }) {
  return <span className="font-semibold text-correct tabular-nums">{t`= ${shown}`}</span>
}
