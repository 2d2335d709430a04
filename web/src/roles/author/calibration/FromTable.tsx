import { t } from '@lingui/core/macro'
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { Button } from '../../../ui/Button'
import { Labelled, Problem } from '../../../ui/Field'
import { runOfTable } from './queries'

interface Props {
  course: string
  off: boolean
  onSent: () => void
}

/** A table of answers given elsewhere, such as in a test on paper, instead of the course’s own. */
export function FromTable({ course, off, onSent }: Props) {
  const [file, setFile] = useState<File | null>(null)
  const send = useMutation({
    mutationFn: (table: File) => runOfTable(course, table),
    onSuccess: onSent,
  })
  return (
    <details className="mt-3 max-w-3xl">
      <summary className="cursor-pointer text-gust">{t`Calibrate a table instead`}</summary>
      <div className="mt-2 grid gap-2">
        <p className="text-ink-2">
          {t`A table as CSV: over each column a question’s key, as its file is called, and a row for each learner. 1 is right and 0 wrong; a question with several parts has the number of its marks; leave blank what wasn’t asked. No names, please.`}
        </p>
        <Labelled label={t`Table`}>
          <input
            type="file"
            accept=".csv,text/csv"
            onChange={({ target }) => setFile(target.files?.[0] ?? null)}
          />
        </Labelled>
        <p>
          <Button
            disabled={!file || off || send.isPending}
            onClick={() => file && send.mutate(file)}
          >{t`Calibrate this table`}</Button>
        </p>
        <Problem error={send.error} />
      </div>
    </details>
  )
}
