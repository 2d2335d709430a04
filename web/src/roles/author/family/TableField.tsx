import { t } from '@lingui/core/macro'
import type { Json } from '../../../account/merging'
import { Button } from '../../../ui/Button'
import { Wrong } from '../../composing/Pick'
import { ChipText } from './ChipText'
import { useFamily } from './context'
import { put, type Things, textOf } from './json'
import { KINDS } from './kindFields'
import { type FieldProps, kindOf, type View as ViewType } from './kinds'

interface Row extends Things {
  label?: string
  cells: Json[]
}

/** A table row by row: each cell a text, or something to answer. */
export function TableField({
  value,
  onChange,
  path,
  field,
  View,
}: FieldProps & { View: ViewType }) {
  const { problemAt } = useFamily()
  const rows = (Array.isArray(value) ? value : []) as unknown as Row[]
  const width = Math.max(1, ...rows.map(({ cells }) => cells.length))
  const setRow = (place: number, row: Row) =>
    onChange(rows.map((one, i) => (i === place ? row : one)) as unknown as Json)
  return (
    <fieldset className="grid min-w-0 gap-3 @md:col-span-2">
      <legend className="mb-1 font-semibold">{field.label}</legend>
      <Wrong says={problemAt(path)} />
      {rows.map((row, place) => (
        <fieldset
          // biome-ignore lint/suspicious/noArrayIndexKey: they have no identity but their place
          key={place}
          className="grid gap-2 border-b border-line pb-3"
        >
          <legend className="text-sm text-ink-2">{t`Row ${place + 1}`}</legend>
          <ChipText
            label={t`Label of row ${place + 1}`}
            value={textOf(row.label)}
            onChange={(label) => setRow(place, { ...row, label })}
          />
          {row.cells.map((cell, column) => (
            <Cell
              View={View}
              // biome-ignore lint/suspicious/noArrayIndexKey: nor have cells
              key={column}
              cell={cell}
              name={t`Row ${place + 1}, column ${column + 1}`}
              id={`r${place + 1}c${column + 1}`}
              path={`${path}.${place}.cells.${column}`}
              onChange={(next) =>
                setRow(place, { ...row, cells: row.cells.map((c, i) => (i === column ? next : c)) })
              }
            />
          ))}
          <p>
            <Button
              kind="quiet"
              className="-ml-2"
              onClick={() => onChange(rows.filter((_, i) => i !== place) as unknown as Json)}
            >{t`Remove row ${place + 1}`}</Button>
          </p>
        </fieldset>
      ))}
      <p>
        <Button
          kind="quiet"
          className="-ml-2"
          onClick={() =>
            onChange([...rows, { label: '', cells: Array(width).fill('') }] as unknown as Json)
          }
        >{t`Add a row`}</Button>
      </p>
    </fieldset>
  )
}

function Cell({
  View,
  cell,
  name,
  id,
  path,
  onChange,
}: {
  View: ViewType
  cell: Json
  name: string
  id: string
  path: string
  onChange: (cell: Json) => void
}) {
  const part = typeof cell === 'object' && cell !== null ? (cell as Things) : null
  const fields = part && KINDS[kindOf({ kind: 'text_entry', ...part })]
  return (
    <div className="grid gap-2 border-l-4 border-line pl-3">
      {part && fields ? (
        fields
          .slice(0, 4)
          .map((field) => (
            <View
              key={field.name}
              field={{ ...field, label: `${name}: ${field.label}` }}
              value={part[field.name]}
              onChange={(next) => onChange(put(part, field.name, next))}
              path={`${path}.${field.name}`}
            />
          ))
      ) : (
        <ChipText label={name} value={textOf(cell)} onChange={onChange} />
      )}
      <p>
        <Button
          kind="quiet"
          className="-ml-2"
          onClick={() =>
            onChange(part ? '' : { kind: 'text_entry', id, value: 'number', answer: 0 })
          }
        >
          {part ? t`${name}: make it a text` : t`${name}: let it be answered`}
        </Button>
      </p>
    </div>
  )
}
