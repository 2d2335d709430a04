import { t } from '@lingui/core/macro'
import { Plus, X } from 'lucide-react'
import { Button } from '../../../ui/Button'
import { Check } from '../../../ui/Check'
import { TextField } from '../../../ui/Field'
import { IconButton } from '../../../ui/IconButton'
import { type BookData, type Category, newKey, taking } from './term'

interface Props {
  book: BookData
  onChange: (next: Partial<BookData>) => void
}

const KINDS: [Category['takes'][number], string][] = [
  ['tests', t`tests`],
  ['tasks', t`set work`],
  ['outside', t`work from outside`],
]
const MOST = 12

/** Categories of a term: name, weight, how many of the lowest are left out, what goes into each. */
export function Categories({ book, onChange }: Props) {
  const all = book.categories
  const set = (place: number, next: Partial<Category>) =>
    onChange({ categories: all.map((one, i) => (i === place ? { ...one, ...next } : one)) })
  const add = () => {
    const key = newKey(
      all.map((one) => one.key),
      'category',
    )
    onChange({ categories: [...all, { key, title: '', weight: '10', drop: 0, takes: [] }] })
  }
  const remove = (key: string) =>
    onChange({
      categories: all.filter((one) => one.key !== key),
      placed: Object.fromEntries(
        Object.entries(book.placed).map(([work, place]) => [
          work,
          place.category === key ? { ...place, category: null } : place,
        ]),
      ),
    })
  return (
    <>
      <ul className="mt-2">
        {all.map((one, place) => (
          <li
            key={one.key}
            className="flex flex-wrap items-end gap-x-4 gap-y-2 border-line border-b py-2.5"
          >
            <TextField
              label={t`Name of category ${place + 1}`}
              value={one.title}
              required
              maxLength={60}
              onText={(title) => set(place, { title })}
              fieldWidth="w-52"
            />
            <TextField
              label={t`Weight`}
              value={one.weight}
              required
              inputMode="decimal"
              onText={(weight) => set(place, { weight })}
              fieldWidth="w-20"
            />
            <TextField
              label={t`Lowest left out`}
              type="number"
              min={0}
              max={10}
              value={one.drop}
              onText={(text) => set(place, { drop: Number(text) || 0 })}
              fieldWidth="w-20"
            />
            <fieldset className="flex flex-wrap items-center gap-x-4">
              <legend className="text-ink-2 text-sm">{t`Takes new`}</legend>
              {KINDS.map(([kind, words]) => (
                <Check
                  key={kind}
                  on={one.takes.includes(kind)}
                  set={(on) => onChange({ categories: taking(all, place, kind, on) })}
                >
                  {words}
                </Check>
              ))}
            </fieldset>
            {all.length > 1 && (
              <IconButton
                icon={X}
                label={t`Remove category ${one.title}`}
                act={() => remove(one.key)}
              />
            )}
          </li>
        ))}
      </ul>
      {all.length < MOST && (
        <Button kind="quiet" className="mt-1" onClick={add}>
          <Plus size={18} aria-hidden="true" /> {t`Add a category`}
        </Button>
      )}
    </>
  )
}
