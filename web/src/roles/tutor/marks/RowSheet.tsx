import { t } from '@lingui/core/macro'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import type { Schemas } from '../../../api/client'
import { keys } from '../../../api/keys'
import { Button } from '../../../ui/Button'
import { Problem, TextField } from '../../../ui/Field'
import { Sheet } from '../../../ui/Sheet'
import { Loaded } from '../../../ui/states'
import { moment } from '../../../ui/words'
import { MarkDetail } from '../../marks/MarkDetail'
import { mark, type Row } from '../../marks/marks'
import { correctMark, type MarkBook, markOfQuery } from './queries'

interface Props {
  group: number
  book: MarkBook
  row: Row
  onClose: () => void
}

/** How a learner's mark was worked out; in a closed term it can be corrected here. */
export function RowSheet({ group, book, row, onClose }: Props) {
  const query = useQuery(markOfQuery(group, book.term.id, row.learner))
  return (
    <Sheet open onOpenChange={onClose} title={row.name}>
      <Loaded query={query} what={t`the mark`}>
        {(found) => (
          <>
            <MarkDetail found={found} />
            <History entered={found.entered} />
            {book.term.closed && <Correct group={group} book={book} row={row} onDone={onClose} />}
          </>
        )}
      </Loaded>
    </Sheet>
  )
}

const WORDS: Record<Schemas['EnteredOut']['kind'], string> = {
  mark: '',
  excused: t`excused`,
  missing: t`missing`,
  cleared: t`cleared`,
}

function History({ entered }: { entered: Schemas['EnteredOut'][] }) {
  if (entered.length === 0) return null
  return (
    <section className="mt-5">
      <h3 className="text-lg">{t`Entered by hand`}</h3>
      <ul className="mt-1 grid gap-1">
        {entered.map((one) => (
          <li key={`${one.column} ${one.at}`}>
            {one.title}: {one.mark === null ? WORDS[one.kind] : mark(one.mark)}
            <span className="text-ink-2">
              {' '}
              {t`by ${one.by}, ${moment(one.at)}`}
              {one.why && `: ${one.why}`}
            </span>
          </li>
        ))}
      </ul>
    </section>
  )
}

function Correct({ group, book, row, onDone }: Omit<Props, 'onClose'> & { onDone: () => void }) {
  const [value, setValue] = useState(row.mark === null ? '' : mark(row.mark, 2))
  const [why, setWhy] = useState('')
  const cache = useQueryClient()
  const save = useMutation({
    mutationFn: () =>
      correctMark(group, book.term.id, {
        learner: row.learner,
        mark: value.replace(',', '.').trim(),
        why: why.trim(),
      }),
    onSuccess: (found) => {
      cache.setQueryData(keys.markBook(group, book.term.id), found)
      cache.removeQueries({ queryKey: keys.markOf(group, book.term.id, row.learner) })
      onDone()
    },
  })
  return (
    <form
      className="mt-6 grid gap-3 border-line border-t pt-4"
      onSubmit={(event) => {
        event.preventDefault()
        save.mutate()
      }}
    >
      <h3 className="text-lg">{t`Correct this mark`}</h3>
      <p className="text-ink-2">{t`The mark the term was closed with stays beside it, with your name and reason.`}</p>
      <TextField
        label={t`New mark`}
        value={value}
        onText={setValue}
        required
        inputMode="decimal"
        fieldWidth="w-28"
      />
      <TextField
        label={t`Reason (the learner reads this)`}
        value={why}
        onText={setWhy}
        required
        maxLength={200}
      />
      <Button
        type="submit"
        kind="strong"
        className="justify-self-start"
        disabled={save.isPending}
      >{t`Correct the mark`}</Button>
      <Problem error={save.error} />
    </form>
  )
}
