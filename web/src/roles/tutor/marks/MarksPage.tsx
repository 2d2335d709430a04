import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import type { Schemas } from '../../../api/client'
import { Button, buttonClass } from '../../../ui/Button'
import { TextField } from '../../../ui/Field'
import { Loaded } from '../../../ui/states'
import { TextLink } from '../../../ui/TextLink'
import { useTitle } from '../../../ui/useTitle'
import { day } from '../../../ui/words'
import { Pick } from '../../composing/Pick'
import { CloseSheet } from './CloseSheet'
import { FileSheet } from './FileSheet'
import { MarkTable } from './MarkTable'
import { type MarkBook, markBookQuery, termsQuery } from './queries'
import { StartTerm } from './StartTerm'

/** The marks of a group, term by term. */
export default function MarksPage() {
  useTitle(t`Marks`)
  const group = Number(useParams().group)
  const wanted = Number(useParams().term)
  const query = useQuery(termsQuery(group))
  return (
    <Loaded query={query} what={t`the marks`}>
      {(found) => {
        const [first] = found.terms
        const term = found.terms.find((one) => one.id === wanted) ?? first
        return (
          <main id="main" className="px-5 py-8 @5xl:px-8">
            <p className="print:hidden">
              <TextLink to={`/tutor/groups/${group}`}>{found.group}</TextLink>
            </p>
            {term ? (
              <Term key={term.id} group={group} term={term.id} terms={found.terms} />
            ) : (
              <>
                <h1 className="mt-0.5 text-3xl">{t`Marks`}</h1>
                <p className="mt-1 max-w-3xl text-ink-2">{t`Start a term. The tests and work you set between its dates go into its mark book by themselves. You choose what counts and how much.`}</p>
                <StartTerm group={group} terms={found.terms} />
              </>
            )}
          </main>
        )
      }}
    </Loaded>
  )
}

interface TermProps {
  group: number
  term: number
  terms: Schemas['TermOut'][]
}

function Term({ group, term, terms }: TermProps) {
  const query = useQuery(markBookQuery(group, term))
  return (
    <Loaded query={query} what={t`the marks`}>
      {(book) => <Book group={group} terms={terms} book={book} />}
    </Loaded>
  )
}

type Open = 'close' | 'file' | 'start' | null

function Book({
  group,
  terms,
  book,
}: {
  group: number
  terms: Schemas['TermOut'][]
  book: MarkBook
}) {
  const navigate = useNavigate()
  const [open, setOpen] = useState<Open>(null)
  const [words, setWords] = useState('')
  const term = book.term
  const file = (kind: string) => `/api/groups/${group}/marks/${term.id}/file?kind=${kind}`
  const shown = book.learners.filter((one) =>
    one.name.toLowerCase().includes(words.trim().toLowerCase()),
  )
  return (
    <>
      <div className="mt-0.5 flex flex-wrap items-end justify-between gap-4">
        <h1 className="text-3xl">{book.headline}</h1>
        <div className="flex flex-wrap items-end gap-3 print:hidden">
          {terms.length > 1 && (
            <Pick
              label={t`Term`}
              options={terms.map((one) => [String(one.id), one.title])}
              value={String(term.id)}
              onChange={(next) => navigate(`/tutor/groups/${group}/marks/${next}`)}
            />
          )}
          <TextField label={t`Find a learner`} value={words} onText={setWords} fieldWidth="w-52" />
        </div>
      </div>
      <p className="mt-1 text-ink-2">
        {t`${term.title}, ${day(term.begins)} to ${day(term.ends)}, marks out of ${book.most}`}
        {term.closed && t`. Closed ${day(term.closed)} by ${book.closed_by}.`}
      </p>
      <div className="mt-4 flex flex-wrap items-end gap-3 print:hidden">
        {!term.closed && (
          <>
            <Link
              to={`/tutor/groups/${group}/marks/${term.id}/settings`}
              className={buttonClass('plain')}
            >{t`What counts`}</Link>
            <Button kind="plain" onClick={() => setOpen('file')}>{t`Import marks`}</Button>
          </>
        )}
        <a href={file('xlsx')} download className={buttonClass('plain')}>{t`Save as a workbook`}</a>
        <a href={file('csv')} download className={buttonClass('plain')}>{t`Save as CSV`}</a>
        <Button kind="plain" onClick={() => window.print()}>{t`Print`}</Button>
        <Button kind="plain" onClick={() => setOpen('start')}>{t`Start another term`}</Button>
        {!term.closed && (
          <Button kind="plain" onClick={() => setOpen('close')}>{t`Close the term`}</Button>
        )}
      </div>
      {open === 'start' && <StartTerm group={group} terms={terms} onDone={() => setOpen(null)} />}
      <MarkTable group={group} book={book} learners={shown} />
      {open === 'close' && <CloseSheet group={group} book={book} onClose={() => setOpen(null)} />}
      {open === 'file' && <FileSheet group={group} book={book} onClose={() => setOpen(null)} />}
    </>
  )
}
