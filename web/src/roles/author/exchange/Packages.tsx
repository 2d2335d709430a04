import { t } from '@lingui/core/macro'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Button, buttonClass } from '../../../ui/Button'
import { Problem } from '../../../ui/Field'
import { moment } from '../../../ui/words'
import { Pick } from '../../composing/Pick'
import { composedQuery } from '../../composing/queries'
import { writtenQuery } from '../bank/queries'
import { keys } from '../keys'
import { beginExport, type Export, exportsQuery } from './queries'

const VERSIONS = ['1', '5', '20'] as const

/** Questions for other programs: packages of QTI 3, written in the background. */
export function Packages({ course }: { course: string }) {
  const cache = useQueryClient()
  const topics = useQuery(writtenQuery).data?.courses.find(({ key }) => key === course)?.topics
  const query = useQuery(exportsQuery(course))
  const tests = useQuery(composedQuery(course)).data?.tests ?? []
  const [topic, setTopic] = useState('')
  const [test, setTest] = useState('')
  const [versions, setVersions] = useState('1')
  const begin = useMutation({
    mutationFn: () =>
      beginExport(course, {
        topic: test ? '' : topic,
        test: test ? Number(test) : null,
        versions: Number(versions),
      }),
    onSuccess: () => cache.invalidateQueries({ queryKey: keys.exports(course) }),
  })
  return (
    <section className="mt-6">
      <h2 className="text-xl">{t`Questions for other programs (QTI 3)`}</h2>
      <p className="mt-1 text-ink-2">{t`A package of the open standard: each question in one version or in several, with its marking, feedback and solution; or a test with its sections, draws, points and limits. Sent back here, a question is known again.`}</p>
      <form
        className="mt-2 flex flex-wrap items-end gap-4"
        onSubmit={(event) => {
          event.preventDefault()
          begin.mutate()
        }}
      >
        <Pick
          label={t`A test`}
          options={[
            ['', t`none`],
            ...tests.map(({ id, title }): [string, string] => [String(id), title]),
          ]}
          value={test}
          onChange={setTest}
        />
        {!test && (
          <Pick
            label={t`Topic`}
            options={[
              ['', t`all`],
              ...(topics ?? []).map(({ key, title }): [string, string] => [key, title]),
            ]}
            value={topic}
            onChange={setTopic}
          />
        )}
        <Pick
          label={t`Versions of each question`}
          options={VERSIONS.map((count): [string, string] => [count, count])}
          value={versions}
          onChange={setVersions}
        />
        <Button type="submit" disabled={begin.isPending}>{t`Write the package`}</Button>
      </form>
      <Problem error={begin.error ?? query.error} />
      <ul className="mt-2">
        {query.data?.exports.map((one) => (
          <Line key={one.id} course={course} one={one} />
        ))}
      </ul>
    </section>
  )
}

function Line({ course, one }: { course: string; one: Export }) {
  const name = one.test || (one.topic?.title ?? t`all topics`)
  const count = one.lost.length
  return (
    <li className="border-b border-line py-2">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <span className="min-w-0 flex-1">
          {t`${name}, versions: ${one.versions}`}{' '}
          <span className="text-ink-2">{moment(one.at)}</span>
        </span>
        <span role="status">
          {one.state === 'writing' && t`Writing: ${one.done} of ${one.many}`}
          {one.state === 'failed' && one.why}
        </span>
        {one.state === 'done' && (
          <a
            href={`/api/courses/${course}/exchange/exports/${one.id}/file`}
            download
            className={buttonClass('plain')}
          >{t`Save the package`}</a>
        )}
      </div>
      {count > 0 && (
        <details className="mt-1 text-ink-2">
          <summary>{t`What other programs don’t know: ${count} questions`}</summary>
          <ul className="list-disc pl-5">
            {one.lost.map(({ key, title, what }) => (
              <li key={key}>{`${title}: ${what.join(', ')}`}</li>
            ))}
          </ul>
        </details>
      )}
    </li>
  )
}
