import { t } from '@lingui/core/macro'
import { useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate, useParams } from 'react-router'
import { Button, buttonClass } from '../../../ui/Button'
import { Labelled, Problem } from '../../../ui/Field'
import { Loaded } from '../../../ui/states'
import { TextLink } from '../../../ui/TextLink'
import { useTitle } from '../../../ui/useTitle'
import { moment } from '../../../ui/words'
import { Packages } from './Packages'
import { beginImport, importsQuery } from './queries'
import { stateWords } from './words'

/** Files of questions: sent here, looked through, and taken into the course; and written for others. */
export default function ImportsPage() {
  const { course = '' } = useParams()
  const query = useQuery(importsQuery(course))
  const [file, setFile] = useState<File | null>(null)
  const navigate = useNavigate()
  const begin = useMutation({
    mutationFn: (chosen: File) => beginImport(course, chosen),
    onSuccess: ({ id }) => navigate(`/author/course/${course}/imports/${id}`),
  })
  useTitle(t`Files in and out`)
  const out = `/api/courses/${course}/exchange`
  return (
    <main id="main" className="max-w-4xl px-5 py-6 @5xl:px-8">
      <p>
        <TextLink to={`/author/course/${course}`}>{t`Course`}</TextLink>
      </p>
      <h1 className="text-3xl">{t`Files in and out`}</h1>
      <p className="mt-1 text-ink-2">{t`Nothing goes into the course before you have looked through it.`}</p>
      <form
        className="mt-5 flex flex-wrap items-end gap-4"
        onSubmit={(event) => {
          event.preventDefault()
          if (file) begin.mutate(file)
        }}
      >
        <Labelled
          label={t`A spreadsheet of questions (CSV, XLSX), QTI (ZIP, XML) or a pack of this course (ZIP)`}
        >
          <input
            type="file"
            accept=".csv,.tsv,.txt,.xlsx,.zip,.xml"
            required
            onChange={({ target }) => setFile(target.files?.[0] ?? null)}
          />
        </Labelled>
        <Button type="submit" kind="strong" disabled={!file || begin.isPending}>
          {begin.isPending ? t`Sending …` : t`Look through it`}
        </Button>
      </form>
      <Problem error={begin.error} />
      <section className="mt-6">
        <h2 className="text-xl">{t`A spreadsheet of questions`}</h2>
        <p className="mt-1 text-ink-2">{t`One row for each question, with its right answer: a number with its unit (4.7 m ± 0.1), a time, one or several words, or choices if there are wrong answers too.`}</p>
        <p className="mt-2 flex flex-wrap gap-3">
          <a href={`${out}/imports/template`} download className={buttonClass('plain')}>
            {t`Save an example to fill in`}
          </a>
          <a href={`${out}/exports/questions`} download className={buttonClass('plain')}>
            {t`Save the course’s questions`}
          </a>
        </p>
      </section>
      <Packages course={course} />
      <section className="mt-6">
        <h2 className="text-xl">{t`A pack of the course`}</h2>
        <p className="mt-1 text-ink-2">{t`All its files in one archive: questions, study pages, drawings, films. Changed elsewhere, it comes in again here, and you see first what it would change.`}</p>
        <p className="mt-2">
          <a href={`${out}/exports/pack`} download className={buttonClass('plain')}>
            {t`Save the pack`}
          </a>
        </p>
      </section>
      <Loaded query={query} what={t`earlier files`}>
        {({ imports }) =>
          imports.length === 0 ? null : (
            <section className="mt-8">
              <h2 className="text-xl">{t`Earlier files`}</h2>
              <ul className="mt-1">
                {imports.map((one) => (
                  <li
                    key={one.id}
                    className="flex flex-wrap items-baseline gap-x-4 gap-y-1 border-b border-line py-2"
                  >
                    <TextLink to={`/author/course/${course}/imports/${one.id}`}>
                      {one.name}
                    </TextLink>
                    <span className="text-ink-2">{`${moment(one.at)}, ${one.by}`}</span>
                    <span className="min-w-0 flex-1">{stateWords(one)}</span>
                  </li>
                ))}
              </ul>
            </section>
          )
        }
      </Loaded>
    </main>
  )
}
