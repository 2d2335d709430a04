import type { Json } from '../../../account/merging'
import { Check } from '../../../ui/Check'
import { fieldClass, Labelled } from '../../../ui/Field'
import { ChipText } from './ChipText'
import { useFamily } from './context'
import { FigureField } from './FigureField'
import { type Given, put, textOf, typedNumber } from './json'
import type { Field, FieldProps } from './kinds'
import { LineField } from './LineField'
import { ListField } from './ListField'
import { RegionField } from './RegionField'
import { TableField } from './TableField'
import { TruthField } from './TruthField'

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
            className={`${fieldClass} w-full min-w-0`}
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
    case 'truth':
      return <TruthField field={field} {...rest} />
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
