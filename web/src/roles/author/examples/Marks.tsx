import { t } from '@lingui/core/macro'
import { useState } from 'react'
import { Input, Labelled } from '../../../ui/Field'
import { type Mark, named, type Typed } from './marks'

/** What may change, and between what: examples that are asked for are drawn from it. */
export function Marks({ typed, set }: { typed: Typed; set: (next: Partial<Typed>) => void }) {
  const marks = typed.marks.filter(({ name }) => typed.text.includes(`[[${name}]]`))
  if (marks.length === 0) return null
  const change = (name: string, next: Partial<Mark>) =>
    set({ marks: typed.marks.map((one) => (one.name === name ? { ...one, ...next } : one)) })
  return (
    <section aria-labelledby="marks" className="mt-4">
      <h2 id="marks" className="text-xl">{t`What may change`}</h2>
      {marks.map((mark) => (
        <fieldset
          key={mark.name}
          className="flex flex-wrap items-end gap-3 border-b border-line py-2"
        >
          <legend className="sr-only">{mark.name}</legend>
          <Named mark={mark} onName={(name) => set(named(typed, mark.name, name))} />
          {mark.forms ? (
            <Labelled label={t`${mark.forms[0]}, or instead`}>
              <Input
                className="w-40"
                value={mark.forms[1]}
                onChange={({ target }) =>
                  change(mark.name, { forms: [mark.forms?.[0] ?? '', target.value] })
                }
              />
            </Labelled>
          ) : (
            (
              [
                ['low', t`From`],
                ['high', t`To`],
                ['step', t`In steps of`],
              ] as const
            ).map(([field, label]) => (
              <Labelled key={field} label={label}>
                <Input
                  type="number"
                  step="any"
                  className="w-24"
                  value={mark[field]}
                  onChange={({ target }) => change(mark.name, { [field]: Number(target.value) })}
                />
              </Labelled>
            ))
          )}
        </fieldset>
      ))}
    </section>
  )
}

function Named({ mark, onName }: { mark: Mark; onName: (name: string) => void }) {
  const [called, setCalled] = useState(mark.name)
  return (
    <Labelled label={t`Called`}>
      <Input
        className="w-32 font-semibold"
        spellCheck={false}
        pattern="[a-z][a-z0-9_]*"
        value={called}
        onChange={({ target }) => setCalled(target.value)}
        onBlur={({ target }) =>
          target.validity.valid && called ? onName(called) : setCalled(mark.name)
        }
      />
    </Labelled>
  )
}
