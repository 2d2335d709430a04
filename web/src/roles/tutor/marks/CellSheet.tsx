import { t } from '@lingui/core/macro'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import type { Schemas } from '../../../api/client'
import { keys } from '../../../api/keys'
import { Button } from '../../../ui/Button'
import { Problem, TextField } from '../../../ui/Field'
import { Sheet } from '../../../ui/Sheet'
import { TextLink } from '../../../ui/TextLink'
import { capital } from '../../../ui/words'
import { Pick } from '../../composing/Pick'
import { cellWords, type Row } from '../../marks/marks'
import { enterMarks, type MarkBook } from './queries'

interface Props {
  group: number
  book: MarkBook
  row: Row
  place: number
  onClose: () => void
}

type Kind = Schemas['EntryIn']['kind']

/** One learner's cell: what it says, where it comes from, and what a tutor enters in its place. */
export function CellSheet({ group, book, row, place, onClose }: Props) {
  const column = book.columns[place] as MarkBook['columns'][number]
  const cell = row.cells[place] as Row['cells'][number]
  const outside = column.kind === 'outside'
  const [kind, setKind] = useState<Kind>(
    outside || cell.standing !== 'missing' ? 'mark' : 'excused',
  )
  const [value, setValue] = useState('')
  const [why, setWhy] = useState('')
  const cache = useQueryClient()
  const save = useMutation({
    mutationFn: () =>
      enterMarks(group, book.term.id, {
        column: column.key,
        entries: [
          {
            learner: row.learner,
            kind,
            mark: kind === 'mark' ? value.replace(',', '.').trim() : undefined,
          },
        ],
        why: why.trim(),
      }),
    onSuccess: (found) => {
      cache.setQueryData(keys.markBook(group, book.term.id), found)
      cache.removeQueries({ queryKey: keys.markOf(group, book.term.id, row.learner) })
      onClose()
    },
  })
  const options: [Kind, string][] = [
    ['mark', t`A mark`],
    ['excused', t`Excused: counts nowhere`],
    ['missing', t`Missing`],
  ]
  if (cell.entered)
    options.push(['cleared', outside ? t`Nothing (clear it)` : t`What the work says`])
  return (
    <Sheet open onOpenChange={onClose} title={row.name}>
      <p className="mt-2 text-lg">
        {column.title}: {cellWords(cell) || t`no mark`}
      </p>
      <p className="text-ink-2">
        {cell.entered && t`Entered by hand.`}{' '}
        {column.test !== null && (
          <TextLink
            to={`/tutor/work/${group}/${column.test}/results`}
          >{t`Results of the test`}</TextLink>
        )}
        {column.task !== null && (
          <TextLink
            to={`/tutor/work/${group}/tasks/${column.task}/hand-ins`}
          >{t`What was handed in`}</TextLink>
        )}
      </p>
      <form
        className="mt-5 grid gap-4"
        onSubmit={(event) => {
          event.preventDefault()
          save.mutate()
        }}
      >
        <div className="flex flex-wrap gap-4">
          <Pick
            label={outside ? t`Enter` : t`Count instead`}
            options={options}
            value={kind}
            onChange={(next) => setKind(next as Kind)}
          />
          {kind === 'mark' && (
            <TextField
              label={t`Mark, out of ${column.of ?? book.most}`}
              value={value}
              onText={setValue}
              required
              inputMode="decimal"
              fieldWidth="w-28"
            />
          )}
        </div>
        <TextField
          label={
            outside
              ? t`Reason, if you like (the learner reads this)`
              : t`Reason (the learner reads this)`
          }
          value={why}
          onText={setWhy}
          required={!outside}
          maxLength={200}
        />
        <Button
          type="submit"
          kind="strong"
          className="justify-self-start"
          disabled={save.isPending}
        >
          {t`Save`}
        </Button>
        <Problem error={save.error} />
      </form>
      <p className="mt-4 text-ink-2 text-sm">
        {capital(t`your name, the time and the reason are kept with it.`)}
      </p>
    </Sheet>
  )
}
