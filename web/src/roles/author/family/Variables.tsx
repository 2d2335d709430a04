import { t } from '@lingui/core/macro'
import { useEffect, useRef, useState } from 'react'
import type { Json } from '../../../account/merging'
import { Button } from '../../../ui/Button'
import { fieldClass, Input, Labelled, Problem } from '../../../ui/Field'
import { Wrong } from '../../composing/Pick'
import { useFamily } from './context'
import { put, type Things, textOf, typedNumber, valuesOf } from './json'

type Way = 'range' | 'pick' | 'is'
const WAYS: [Way, string][] = [
  ['range', t`from … to`],
  ['pick', t`one of a list`],
  ['is', t`worked out`],
]

interface Props {
  variables: Things
  chosen: string | null
  onChoose: (name: string | null) => void
  onChange: (variables: Things) => void
  onRename: (from: string, to: string) => void
  renaming: Error | null
}

/** What varies: each with its value in the version on screen; the chosen one with what it may be. */
export function Variables({ variables, chosen, onChoose, onChange, onRename, renaming }: Props) {
  const { filled } = useFamily()
  const names = Object.keys(variables)
  const open = chosen !== null && chosen in variables ? chosen : null
  const add = () => {
    let name = 'number'
    for (let next = 2; name in variables; next++) name = `number${next}`
    onChange({ ...variables, [name]: { range: [1, 10, 1] } })
    onChoose(name)
  }
  return (
    <section aria-labelledby="varies" className="mt-3">
      <h2 id="varies" className="sr-only">{t`What varies`}</h2>
      <div className="flex flex-wrap items-center gap-2">
        {names.map((name) => (
          <button
            key={name}
            type="button"
            aria-expanded={open === name}
            onClick={() => onChoose(open === name ? null : name)}
            className={`min-h-9 rounded-lg border px-2.5 ${open === name ? 'border-gust bg-gust-soft' : 'border-edge bg-sheet'}`}
          >
            <span className="font-semibold">{name}</span>{' '}
            <span className="text-ink-2 tabular-nums">{filled.get(name)}</span>
          </button>
        ))}
        <Button kind="quiet" onClick={add}>{t`Add a variable`}</Button>
      </div>
      {open !== null && (
        <OneVariable
          key={open}
          name={open}
          variable={(variables[open] ?? {}) as Things}
          onChange={(next) => onChange({ ...variables, [open]: next })}
          onRemove={() => {
            onChange(put(variables, open, undefined))
            onChoose(null)
          }}
          onRename={(to) => onRename(open, to)}
          renaming={renaming}
        />
      )}
    </section>
  )
}

function OneVariable({
  name,
  variable,
  onChange,
  onRemove,
  onRename,
  renaming,
}: {
  name: string
  variable: Things
  onChange: (next: Things) => void
  onRemove: () => void
  onRename: (to: string) => void
  renaming: Error | null
}) {
  const { problemAt } = useFamily()
  const [called, setCalled] = useState(name)
  const box = useRef<HTMLDivElement>(null)
  // Newer browsers give a promise back, which is no clean-up.
  useEffect(() => void box.current?.scrollIntoView({ block: 'nearest' }), [])
  const way: Way = 'pick' in variable ? 'pick' : 'is' in variable ? 'is' : 'range'
  const many = way === 'range' ? valuesOf(variable.range) : null
  return (
    <div ref={box} className="mt-2 rounded-box border-2 border-gust bg-sheet p-3">
      <div className="flex flex-wrap items-end gap-3">
        <Labelled label={t`Called`}>
          <Input
            className="w-32 font-semibold"
            value={called}
            spellCheck={false}
            onChange={({ target }) => setCalled(target.value)}
            onBlur={() => called !== name && onRename(called)}
            onKeyDown={({ key, currentTarget }) => key === 'Enter' && currentTarget.blur()}
          />
        </Labelled>
        <Labelled label={t`It is`}>
          <select
            className={fieldClass}
            value={way}
            onChange={({ target }) => onChange(began(target.value as Way, variable))}
          >
            {WAYS.map(([key, words]) => (
              <option key={key} value={key}>
                {words}
              </option>
            ))}
          </select>
        </Labelled>
        {way === 'range' && <Range range={variable.range} onChange={onChange} />}
        {way === 'pick' && <PickOf pick={variable.pick} onChange={onChange} />}
        {way === 'is' && (
          <Labelled label={t`From the others`} className="min-w-40 flex-1">
            <Input
              className="font-mono"
              spellCheck={false}
              value={textOf(variable.is)}
              onChange={({ target }) => onChange({ is: target.value })}
            />
          </Labelled>
        )}
        {many !== null && (
          <span className="pb-2 text-ink-2">{many === 1 ? t`one value` : t`${many} values`}</span>
        )}
        <Button kind="quiet" onClick={onRemove}>{t`Remove ${name}`}</Button>
      </div>
      <Wrong says={problemAt(`variables.${name}`, true)} />
      <Problem error={renaming} />
    </div>
  )
}

const RANGE = [t`From`, t`To`, t`In steps of`]

function Range({ range, onChange }: { range: unknown; onChange: (next: Things) => void }) {
  const numbers = (Array.isArray(range) ? range : [1, 10, 1]) as Json[]
  return RANGE.map((label, place) => (
    <Labelled key={label} label={label}>
      <Input
        className="w-20 tabular-nums"
        value={textOf(numbers[place])}
        onChange={({ target }) =>
          onChange({
            range: numbers.map((one, i) => (i === place ? (typedNumber(target.value) ?? '') : one)),
          })
        }
      />
    </Labelled>
  ))
}

function PickOf({ pick, onChange }: { pick: unknown; onChange: (next: Things) => void }) {
  const [text, setText] = useState(Array.isArray(pick) ? pick.map(String).join(', ') : '')
  return (
    <Labelled label={t`One of, with commas between`} className="min-w-48 flex-1">
      <Input
        value={text}
        onChange={({ target }) => {
          setText(target.value)
          const all = target.value.split(',').flatMap((one) => typedNumber(one.trim()) ?? [])
          onChange({ pick: all as Json[] })
        }}
      />
    </Labelled>
  )
}

function began(way: Way, before: Things): Things {
  const [first] = Array.isArray(before.range)
    ? before.range
    : Array.isArray(before.pick)
      ? before.pick
      : [1]
  if (way === 'pick') return { pick: [first ?? 1] }
  if (way === 'is') return { is: textOf(first) }
  const low = typeof first === 'number' ? first : 1
  return { range: [low, low + 10, 1] }
}
