import { t } from '@lingui/core/macro'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Button } from '../../../ui/Button'
import { Labelled, Problem, TextArea } from '../../../ui/Field'
import { TextLink } from '../../../ui/TextLink'
import { keys } from '../keys'
import { changeRow, type Row } from './queries'
import { columnWords, seenWords } from './words'

interface Props {
  course: string
  number: number
  columns: string[]
  row: Row
  closed: boolean
}

/** A question of a file with what is wrong with it, where it can be put right. */
export function RowCard({ course, number, columns, row, closed }: Props) {
  const cache = useQueryClient()
  const [typed, setTyped] = useState<Record<string, string> | null>(null)
  const change = useMutation({
    mutationFn: (body: { cells: Record<string, string>; skip: boolean }) =>
      changeRow(course, number, row.line, { ...body, version: row.version }),
    onSuccess: async () => {
      setTyped(null)
      await cache.invalidateQueries({ queryKey: keys.import(course, number) })
    },
  })
  const { cells, problems, notes, same, skip } = row
  const wanted = row.path
    ? columns
    : [...new Set([...columns, ...problems.map(({ column }) => column)])]
  const refused = row.path !== '' && problems.some(({ column }) => column === 'question')
  const wrong = problems.length > 0 && !skip
  const wrongs = columns.filter((one) => /^wrong \d$/.test(one)).flatMap((one) => cells[one] ?? [])
  return (
    <li className="rounded-box bg-sheet p-4">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <span className="max-w-full text-sm break-all text-ink-2 tabular-nums">
          {row.path || t`line ${row.line}`}
        </span>
        <span className={`min-w-0 flex-1 ${skip ? 'text-ink-2 line-through' : 'font-semibold'}`}>
          {cells.question}
        </span>
        <span>
          {cells.right}
          {wrongs.length > 0 && <span className="text-ink-2">{` (${wrongs.join(', ')})`}</span>}
        </span>
        {row.topic && <span className="text-ink-2">{row.topic.title}</span>}
        {row.key && <TextLink to={`/author/bank/${course}/${row.key}`}>{t`Open`}</TextLink>}
        {!closed && typed === null && (
          <span className="-mr-2 flex flex-wrap">
            {!skip && !refused && (
              <Button
                kind="quiet"
                aria-label={t`Correct line ${row.line}`}
                onClick={() => setTyped(cells)}
              >{t`Correct`}</Button>
            )}
            <Button
              kind="quiet"
              disabled={change.isPending}
              aria-label={skip ? t`Take line ${row.line} after all` : t`Leave out line ${row.line}`}
              onClick={() => change.mutate({ cells, skip: !skip })}
            >
              {skip ? t`Take it after all` : t`Leave it out`}
            </Button>
          </span>
        )}
      </div>
      {seenWords(row.seen) && <p className="mt-1 text-ink-2">{seenWords(row.seen)}</p>}
      {wrong && (
        <ul className="mt-1 list-disc pl-5 text-wrong">
          {problems.map(({ column, says }) => (
            <li key={`${column} ${says}`}>{`${columnWords(column)}: ${says}`}</li>
          ))}
        </ul>
      )}
      {notes.map((says) => (
        <p key={says} className="mt-1 text-part">
          {says}
        </p>
      ))}
      {same && row.seen !== 'same' && row.seen !== 'changed' && (
        <p className="mt-1 text-part">
          {t`The course asks this already:`}{' '}
          <TextLink to={`/author/bank/${course}/${same.key}`}>{same.title}</TextLink>
        </p>
      )}
      {!closed && typed !== null && (
        <form
          className="mt-3 grid gap-3 @3xl:grid-cols-2"
          onSubmit={(event) => {
            event.preventDefault()
            change.mutate({ cells: typed, skip: false })
          }}
        >
          {wanted.map((column) => (
            <Labelled key={column} label={columnWords(column)}>
              <TextArea
                rows={1}
                maxLength={2000}
                value={typed[column] ?? ''}
                onChange={({ target }) => setTyped({ ...typed, [column]: target.value })}
              />
            </Labelled>
          ))}
          <p className="flex flex-wrap gap-3 @3xl:col-span-2">
            <Button
              type="submit"
              kind="strong"
              disabled={change.isPending}
            >{t`Check again`}</Button>
            <Button kind="quiet" onClick={() => setTyped(null)}>{t`Cancel`}</Button>
          </p>
        </form>
      )}
      <Problem error={change.error} />
    </li>
  )
}
