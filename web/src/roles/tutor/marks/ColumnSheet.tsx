import { t } from '@lingui/core/macro'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useKept } from '../../../account/useKept'
import { ApiError } from '../../../api/client'
import { keys } from '../../../api/keys'
import { Button } from '../../../ui/Button'
import { fieldClass, Problem } from '../../../ui/Field'
import { KeptNote } from '../../../ui/KeptNote'
import { Sheet } from '../../../ui/Sheet'
import { mark } from '../../marks/marks'
import { enterMarks, type MarkBook } from './queries'

interface Props {
  group: number
  book: MarkBook
  column: MarkBook['columns'][number]
  onClose: () => void
}

/** Marks of work from outside, typed one below the other: Enter goes to the next learner. */
export function ColumnSheet({ group, book, column, onClose }: Props) {
  const place = book.columns.findIndex((one) => one.key === column.key)
  const of = column.of ?? book.most
  const before = (row: MarkBook['learners'][number]) => {
    const cell = row.cells[place]
    const value = cell?.mark ?? cell?.held ?? null
    return value === null ? '' : mark((value * of) / book.most, 4)
  }
  const kept = useKept<Record<string, string>>(`marks:${book.term.id}:${column.key}`, () => ({}))
  const typed = (row: MarkBook['learners'][number]) => kept.value[row.learner] ?? before(row)
  const changed = book.learners.filter((row) => typed(row).trim() !== before(row))
  const cache = useQueryClient()
  const save = useMutation({
    mutationFn: () =>
      enterMarks(group, book.term.id, {
        column: column.key,
        why: '',
        entries: changed.map((row) => {
          const text = typed(row).replace(',', '.').trim()
          return text === ''
            ? { learner: row.learner, kind: 'cleared' as const }
            : { learner: row.learner, kind: 'mark' as const, mark: text }
        }),
      }),
    onSuccess: (found) => {
      kept.saved(kept.value)
      cache.setQueryData(keys.markBook(group, book.term.id), found)
      cache.removeQueries({
        queryKey: [...keys.markBook(group, book.term.id)],
        exact: false,
        type: 'inactive',
      })
      onClose()
    },
  })
  const problems = save.error instanceof ApiError ? save.error.fields : {}
  return (
    <Sheet open onOpenChange={onClose} title={column.title}>
      <p className="mt-1 text-ink-2">
        {t`Marks out of ${of}. An empty field clears a mark.`}{' '}
        {!column.shown &&
          t`Learners can’t see these yet, and they count for nobody until you show them.`}
      </p>
      <KeptNote restored={kept.restored} onDiscard={kept.discard} />
      <form
        className="mt-4"
        onSubmit={(event) => {
          event.preventDefault()
          save.mutate()
        }}
      >
        <ul>
          {book.learners.map((row) => (
            <li key={row.learner} className="border-line border-b py-1.5">
              <label className="flex items-center justify-between gap-4">
                {row.name}
                <input
                  className={`${fieldClass} w-24 text-right tabular-nums`}
                  inputMode="decimal"
                  value={typed(row)}
                  aria-invalid={problems[`entries.${row.learner}`] ? true : undefined}
                  onChange={(event) =>
                    kept.set({ ...kept.value, [row.learner]: event.target.value })
                  }
                  onKeyDown={(event) => {
                    if (event.key !== 'Enter') return
                    event.preventDefault()
                    const next = event.currentTarget.closest('li')?.nextElementSibling
                    next?.querySelector('input')?.focus()
                  }}
                />
              </label>
              {problems[`entries.${row.learner}`] && (
                <p className="text-right text-wrong">{problems[`entries.${row.learner}`]}</p>
              )}
            </li>
          ))}
        </ul>
        <div className="sticky -bottom-6 mt-3 flex flex-wrap items-center gap-4 border-line border-t bg-sheet pt-3 pb-6">
          <Button type="submit" kind="strong" disabled={save.isPending || changed.length === 0}>
            {t`Save marks`}
          </Button>
          {Object.keys(problems).length === 0 && <Problem error={save.error} />}
          {Object.keys(problems).length > 0 && (
            <p role="alert" className="text-wrong">
              {save.error?.message}
            </p>
          )}
        </div>
      </form>
    </Sheet>
  )
}
