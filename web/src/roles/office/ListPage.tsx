import { t } from '@lingui/core/macro'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import type { Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { Button } from '../../ui/Button'
import { Problem } from '../../ui/Field'
import { TextLink } from '../../ui/TextLink'
import { useTitle } from '../../ui/useTitle'
import { capital, counted } from '../../ui/words'
import { checkList, takeList } from './queries'

/** A list of people from a file: looked at first, then taken in whole. */
export default function ListPage() {
  useTitle(t`Import people`)
  const [file, setFile] = useState<File>()
  const cache = useQueryClient()
  const check = useMutation({ mutationFn: checkList })
  const take = useMutation({
    mutationFn: takeList,
    onSuccess: () => cache.invalidateQueries({ queryKey: keys.office }),
  })
  const choose = (next: File | undefined) => {
    setFile(next)
    take.reset()
    if (next) check.mutate(next)
    else check.reset()
  }
  return (
    <main id="main" className="max-w-5xl px-5 py-8 @5xl:px-8">
      <p>
        <TextLink to="/office/people">{t`People`}</TextLink>
      </p>
      <h1 className="text-3xl">{t`Import people`}</h1>
      <p className="mt-1 max-w-2xl text-ink-2">{t`A spreadsheet (XLSX) or a CSV file with one row per person. Columns: name, mail, role, and if you have them group, born (like 2012-05-31), guardian, guardian mail. You’ll see what it contains before anything is saved.`}</p>
      <p className="mt-1">
        <a
          href="/api/office/list/empty"
          download
          className="text-gust hover:underline"
        >{t`Download an empty list`}</a>
      </p>
      <label className="mt-5 grid gap-1">
        <span className="text-sm text-ink-2">{t`File`}</span>
        <input
          type="file"
          accept=".csv,.xlsx,text/csv"
          className="file:mr-4 file:min-h-10 file:rounded-lg file:border file:border-gust-mid file:bg-sheet file:px-4 file:font-semibold file:text-gust"
          onChange={(event) => choose(event.target.files?.[0])}
        />
      </label>
      <div className="mt-5">
        <Problem error={check.error} />
        {check.isPending && <p role="status">{t`Reading the list…`}</p>}
        {check.data && !take.data && (
          <Checked
            found={check.data}
            busy={take.isPending}
            take={() => file && take.mutate(file)}
            error={take.error}
          />
        )}
        {take.data && (
          <p role="status" className="text-lg">
            {t`Imported ${counted(take.data.people, 'person')}. We’re sending ${counted(take.data.mails, 'mail')}.`}{' '}
            <TextLink to="/office/people?state=invited">{t`See who is invited`}</TextLink>
          </p>
        )}
      </div>
    </main>
  )
}

function Checked({
  found,
  busy,
  take,
  error,
}: {
  found: Schemas['ListCheckOut']
  busy: boolean
  take: () => void
  error: Error | null
}) {
  const sound = found.faulty === 0
  return (
    <>
      <p role="status" className="text-lg font-semibold">
        {sound
          ? t`${capital(counted(found.all, 'person'))} can be imported${found.guardians ? t`, with ${counted(found.guardians, 'guardian')}` : ''}.`
          : t`${capital(counted(found.faulty, 'row'))} of ${found.all} can’t be imported. Correct the file and choose it again. Nothing is imported until every row is right.`}
      </p>
      {sound && (
        <Button kind="strong" className="mt-3" disabled={busy} onClick={take}>
          {t`Import and invite`} {found.all === 1 ? t`this person` : t`all ${found.all}`}
        </Button>
      )}
      <Problem error={error} />
      <div className="mt-4 overflow-x-auto">
        <table className="w-full border-collapse text-left">
          <thead>
            <tr className="text-sm text-ink-2">
              {[t`Row`, t`Name`, t`Mail`, t`Role`, t`Group`, t`What is wrong`].map((head) => (
                <th key={head} scope="col" className="py-1.5 pr-4 font-normal">
                  {head}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {found.rows.map((row) => (
              <tr key={row.line} className="border-t border-line align-top">
                <td className="py-2 pr-4 tabular-nums">{row.line}</td>
                <th scope="row" className="py-2 pr-4 font-normal">
                  {row.name}
                </th>
                <td className="py-2 pr-4">{row.mail}</td>
                <td className="py-2 pr-4">{row.role}</td>
                <td className="py-2 pr-4">{row.group}</td>
                <td className={row.faults.length ? 'py-2 text-wrong' : 'py-2 text-ink-2'}>
                  {row.faults.join(' ') || 'nothing'}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {found.all > found.rows.length && (
        <p className="mt-2 text-ink-2">{t`Showing the first ${found.rows.length} of ${found.all}, rows with problems first.`}</p>
      )}
    </>
  )
}
