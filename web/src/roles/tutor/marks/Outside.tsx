import { t } from '@lingui/core/macro'
import { Plus, X } from 'lucide-react'
import { Button } from '../../../ui/Button'
import { Check } from '../../../ui/Check'
import { DateField } from '../../../ui/DateField'
import { TextField } from '../../../ui/Field'
import { IconButton } from '../../../ui/IconButton'
import { Pick } from '../../composing/Pick'
import { type BookData, newKey, type Outside as Work } from './term'

interface Props {
  book: BookData
  onChange: (next: Partial<BookData>) => void
}

const MOST = 40

/** Columns whose marks are typed: what each is called, out of how many, and whether it is shown. */
export function Outside({ book, onChange }: Props) {
  const all = book.outside
  const set = (place: number, next: Partial<Work>) =>
    onChange({ outside: all.map((one, i) => (i === place ? { ...one, ...next } : one)) })
  const at = (one: Work) => `own-${one.key}`
  const usual = book.categories.find((one) => one.takes.includes('outside'))?.key ?? null
  const add = () => {
    const key = newKey(
      all.map((one) => one.key),
      'work',
    )
    const next = { key, title: '', of: String(book.most), on: null, shown: true }
    onChange({ outside: [...all, next] })
  }
  const remove = (place: number, one: Work) => {
    const { [at(one)]: _, ...placed } = book.placed
    onChange({ outside: all.filter((_one, i) => i !== place), placed })
  }
  return (
    <>
      <ul className="mt-1">
        {all.map((one, place) => (
          <li
            key={one.key}
            className="flex flex-wrap items-end gap-x-4 gap-y-2 border-line border-b py-2.5"
          >
            <TextField
              label={t`What it is`}
              value={one.title}
              required
              maxLength={60}
              onText={(title) => set(place, { title })}
              fieldWidth="w-52"
            />
            <TextField
              label={t`Out of`}
              value={one.of}
              required
              inputMode="decimal"
              onText={(of) => set(place, { of })}
              fieldWidth="w-20"
            />
            <DateField label={t`Day`} day={one.on ?? null} onDay={(on) => set(place, { on })} />
            <Pick
              label={t`Category`}
              options={[
                ['', t`doesn’t count`],
                ...book.categories.map((each): [string, string] => [each.key, each.title]),
              ]}
              value={(book.placed[at(one)] ? book.placed[at(one)]?.category : usual) ?? ''}
              onChange={(category) =>
                onChange({
                  placed: {
                    ...book.placed,
                    [at(one)]: { category: category || null, counts: 'mark' },
                  },
                })
              }
            />
            <Check
              on={one.shown}
              set={(shown) => set(place, { shown })}
            >{t`Learners see it`}</Check>
            <IconButton icon={X} label={t`Remove ${one.title}`} act={() => remove(place, one)} />
          </li>
        ))}
      </ul>
      {all.length < MOST && (
        <Button kind="quiet" className="mt-1" onClick={add}>
          <Plus size={18} aria-hidden="true" /> {t`Add a column`}
        </Button>
      )}
    </>
  )
}
