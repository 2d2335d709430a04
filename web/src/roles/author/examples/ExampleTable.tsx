import { t } from '@lingui/core/macro'
import { Trash2 } from 'lucide-react'
import { Button } from '../../../ui/Button'
import { fieldClass } from '../../../ui/Field'
import { IconButton } from '../../../ui/IconButton'
import type { Example, Typed } from './marks'

/** Examples that were given: the question’s own numbers first, and others if one likes. */
export function ExampleTable({
  typed,
  set,
}: {
  typed: Typed
  set: (next: Partial<Typed>) => void
}) {
  const names = typed.marks
    .map(({ name }) => name)
    .filter((name) => typed.text.includes(`[[${name}]]`))
  if (names.length === 0) return null
  const setRow = (place: number, row: Example) =>
    set({ rows: typed.rows.map((one, i) => (i === place ? row : one)) })
  return (
    <section aria-labelledby="examples" className="relative mt-5 overflow-x-auto">
      <h2 id="examples" className="text-xl">{t`Answers you know`}</h2>
      <table className="mt-1 text-left">
        <thead className="text-sm text-ink-2">
          <tr>
            {names.map((name) => (
              <th key={name} scope="col" className="py-1 pr-3 font-normal">
                {name}
              </th>
            ))}
            <th scope="col" className="py-1 pr-3 font-normal">{t`answer`}</th>
            <th>
              <span className="sr-only">{t`Remove`}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {typed.rows.map((row, place) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: examples have no identity
            <tr key={place}>
              {names.map((name) => (
                <td key={name} className="py-1 pr-3">
                  <input
                    aria-label={t`${name}, example ${place + 1}`}
                    className={`${fieldClass} w-28`}
                    value={row.values[name] ?? ''}
                    onChange={({ target }) =>
                      setRow(place, { ...row, values: { ...row.values, [name]: target.value } })
                    }
                  />
                </td>
              ))}
              <td className="py-1 pr-3">
                <input
                  aria-label={t`Answer, example ${place + 1}`}
                  className={`${fieldClass} w-28 font-semibold`}
                  value={row.answer}
                  onChange={({ target }) => setRow(place, { ...row, answer: target.value })}
                />
              </td>
              <td>
                {place > 0 && (
                  <IconButton
                    icon={Trash2}
                    label={t`Remove example ${place + 1}`}
                    act={() => set({ rows: typed.rows.filter((_, i) => i !== place) })}
                  />
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {typed.rows.length < 8 && (
        <p>
          <Button
            kind="quiet"
            className="-ml-2"
            onClick={() => set({ rows: [...typed.rows, { values: {}, answer: '' }] })}
          >{t`Give another example`}</Button>
        </p>
      )}
    </section>
  )
}
