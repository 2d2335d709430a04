import { t } from '@lingui/core/macro'
import { fieldClass } from '../../../ui/Field'
import { day } from '../../../ui/words'
import type { MarkBook } from './queries'
import type { BookData } from './term'

interface Props {
  columns: MarkBook['columns']
  book: BookData
  onChange: (next: Partial<BookData>) => void
}

/** Where each test and piece of set work counts, and whether as a mark or as done or not. */
export function WorkPlaces({ columns, book, onChange }: Props) {
  const works = columns.filter((one) => one.kind !== 'outside')
  if (works.length === 0)
    return (
      <p className="text-ink-2">{t`Tests and work that you set for the group, due in this term, will be here.`}</p>
    )
  const set = (
    work: MarkBook['columns'][number],
    next: { category?: string | null; counts?: 'mark' | 'done' },
  ) => {
    const now = book.placed[work.key] ?? { category: usual(work), counts: work.counts }
    onChange({ placed: { ...book.placed, [work.key]: { ...now, ...next } } })
  }
  const usual = (work: MarkBook['columns'][number]) =>
    book.categories.find((one) => one.takes.includes(work.kind))?.key ?? null
  return (
    <ul className="mt-1">
      {works.map((work) => {
        const placed = book.placed[work.key]
        const category = placed ? placed.category : usual(work)
        return (
          <li
            key={work.key}
            className="flex flex-wrap items-center gap-x-4 gap-y-1 border-line border-b py-2"
          >
            <span className="min-w-60 grow">
              {work.title}
              {work.on && <span className="text-ink-2"> {day(work.on)}</span>}
            </span>
            {work.never_told ? (
              <span className="text-ink-2">{t`Learners never see its score, so it can’t count.`}</span>
            ) : (
              <select
                aria-label={t`Category of ${work.title}`}
                className={fieldClass}
                value={category ?? ''}
                onChange={(event) => set(work, { category: event.target.value || null })}
              >
                <option value="">{t`doesn’t count`}</option>
                {book.categories.map((one) => (
                  <option key={one.key} value={one.key}>
                    {one.title}
                  </option>
                ))}
              </select>
            )}
            {work.kind === 'tasks' && category !== null && (
              <select
                aria-label={t`How ${work.title} counts`}
                className={fieldClass}
                value={placed?.counts ?? work.counts}
                onChange={(event) => set(work, { counts: event.target.value as 'mark' | 'done' })}
              >
                <option value="done">{t`done or not`}</option>
                <option value="mark">{t`as a mark`}</option>
              </select>
            )}
          </li>
        )
      })}
    </ul>
  )
}
