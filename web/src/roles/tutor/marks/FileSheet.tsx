import { t } from '@lingui/core/macro'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { keys } from '../../../api/keys'
import { Button } from '../../../ui/Button'
import { Problem } from '../../../ui/Field'
import { Sheet } from '../../../ui/Sheet'
import { checkMarksFile, importMarks, type MarkBook } from './queries'

interface Props {
  group: number
  book: MarkBook
  onClose: () => void
}

/** Marks from a table: looked at first, then entered all at once. */
export function FileSheet({ group, book, onClose }: Props) {
  const [file, setFile] = useState<File>()
  const cache = useQueryClient()
  const term = book.term.id
  const check = useMutation({ mutationFn: (one: File) => checkMarksFile(group, term, one) })
  const store = useMutation({
    mutationFn: (one: File) => importMarks(group, term, one),
    onSuccess: async () => {
      await cache.invalidateQueries({ queryKey: keys.markBook(group, term) })
      onClose()
    },
  })
  const found = check.data
  return (
    <Sheet open onOpenChange={onClose} title={t`Import marks`}>
      <p className="mt-2 text-ink-2">{t`Use the workbook you can save from this page. Fill in the columns for work from outside, as marks out of ${book.most}, or the words excused or missing. You’ll see what changes before anything is saved.`}</p>
      <label className="mt-4 grid gap-1">
        <span className="text-ink-2 text-sm">{t`File`}</span>
        <input
          type="file"
          accept=".csv,.xlsx,text/csv"
          className="file:mr-4 file:min-h-10 file:rounded-lg file:border file:border-gust-mid file:bg-sheet file:px-4 file:font-semibold file:text-gust"
          onChange={(event) => {
            const next = event.target.files?.[0]
            setFile(next)
            if (next) check.mutate(next)
          }}
        />
      </label>
      <Problem error={check.error} />
      {check.isPending && <p role="status">{t`Reading the table…`}</p>}
      {found && (
        <div className="mt-4" role="status">
          {found.faults.length > 0 ? (
            <List title={t`Correct these and choose the file again`} lines={found.faults} />
          ) : (
            <List
              title={
                found.count === 0 ? t`Nothing would change.` : t`This will change (${found.count})`
              }
              lines={found.changes}
            />
          )}
          {found.ignored.length > 0 && (
            <p className="mt-2 text-ink-2">{t`Left as they are, because their marks come from answers: ${found.ignored.join(', ')}.`}</p>
          )}
        </div>
      )}
      {file && found && found.count > 0 && found.faults.length === 0 && (
        <Button
          kind="strong"
          className="mt-4"
          disabled={store.isPending}
          onClick={() => store.mutate(file)}
        >{t`Import these marks`}</Button>
      )}
      <Problem error={store.error} />
    </Sheet>
  )
}

function List({ title, lines }: { title: string; lines: string[] }) {
  return (
    <>
      <p className="font-semibold">{title}</p>
      <ul className="mt-1 max-h-72 overflow-y-auto">
        {lines.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
    </>
  )
}
