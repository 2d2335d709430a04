import { t } from '@lingui/core/macro'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { Link, useParams } from 'react-router'
import type { Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { Button, buttonClass } from '../../ui/Button'
import { Problem } from '../../ui/Field'
import { Loaded } from '../../ui/states'
import { TextLink } from '../../ui/TextLink'
import { useTitle } from '../../ui/useTitle'
import { capital, counted, day } from '../../ui/words'
import { PractiseButton } from './PractiseButton'
import { composedQuery, removeTest } from './queries'
import { StopAsking } from './StopAsking'

type Line = Schemas['ComposedLineOut']

/** The tests of a course: to be changed, copied, tried out; and the way to a new one. */
export default function ComposedPage({ home }: { home: string }) {
  const { course = '' } = useParams()
  const query = useQuery(composedQuery(course))
  useTitle(t`Tests of the course`)
  return (
    <Loaded query={query} what={t`the tests`}>
      {({ course: title, tests, stopped }) => (
        <main id="main" className="px-5 py-8 @5xl:px-8">
          <div className="flex flex-wrap items-start justify-between gap-4">
            <div>
              <h1 className="text-3xl">{t`Tests of ${title}`}</h1>
              <p className="mt-1.5 text-ink-2">
                {tests.length === 0
                  ? t`No tests yet.`
                  : t`Tutors of this course set these tests for their groups. You can change your own and copy any of them.`}
              </p>
            </div>
            <Link
              to={`${home}/tests/${course}/new`}
              className={buttonClass('strong')}
            >{t`Compose a test`}</Link>
          </div>
          <ul className="mt-5">
            {tests.map((test) => (
              <TestLine key={test.id} home={home} course={course} test={test} />
            ))}
          </ul>
          {stopped.length > 0 && (
            <section aria-labelledby="stopped" className="mt-8 max-w-3xl">
              <h2 id="stopped" className="text-xl">{t`Questions that nobody is asked now`}</h2>
              {stopped.map((one) => (
                <div key={one.family} className="mt-3">
                  <h3 className="font-sans font-semibold">{one.title}</h3>
                  <StopAsking course={course} family={one.family} />
                </div>
              ))}
            </section>
          )}
        </main>
      )}
    </Loaded>
  )
}

function TestLine({ home, course, test }: { home: string; course: string; test: Line }) {
  const cache = useQueryClient()
  const remove = useMutation({
    mutationFn: () => removeTest(course, test.id),
    onSuccess: (next) => cache.setQueryData(keys.composed(course), next),
  })
  const at = `${home}/tests/${course}`
  return (
    <li className="grid gap-x-6 gap-y-1 border-b border-line py-3 @3xl:grid-cols-[minmax(0,1fr)_18rem]">
      <div>
        <h2 className="font-sans text-lg font-semibold">
          {test.own ? <TextLink to={`${at}/${test.id}`}>{test.title}</TextLink> : test.title}
        </h2>
        <p className="text-ink-2">
          {t`${capital(counted(test.questions, 'question'))}, ${test.points} points, about ${test.minutes} min`}
          {test.by && t`; composed by ${test.own ? 'you' : test.by}`} {t`on ${day(test.made_at)}`}
        </p>
      </div>
      <p className="text-ink-2 tabular-nums">
        {test.given === 0
          ? t`not set yet`
          : t`set ${test.given === 1 ? 'once' : `${test.given} times`}, started by ${counted(test.begun, 'learner')}`}
      </p>
      <p className="flex flex-wrap gap-2 @3xl:col-span-2">
        <Link
          to={`${at}/new?from=${test.id}`}
          aria-label={t`Copy ${test.title}`}
          className={`${buttonClass('quiet')} -ml-2`}
        >{t`Copy it`}</Link>
        {test.begun > 0 && (
          <Link
            to={`${at}/${test.id}/analysis`}
            aria-label={t`What ${test.title} says about itself`}
            className={buttonClass('quiet')}
          >{t`Analysis`}</Link>
        )}
        <PractiseButton course={course} test={`trial-${test.id}`} title={test.title} />
        {test.own && test.given === 0 && (
          <Button
            kind="quiet"
            aria-label={t`Remove ${test.title}`}
            disabled={remove.isPending}
            onClick={() => remove.mutate()}
          >{t`Remove it`}</Button>
        )}
      </p>
      <Problem error={remove.error} />
    </li>
  )
}
