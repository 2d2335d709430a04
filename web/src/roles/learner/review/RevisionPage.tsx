import { t } from '@lingui/core/macro'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { Link } from 'react-router'
import { useCourse, useTo } from '../../../account/course'
import { useStart } from '../../../activities/requests'
import type { Schemas } from '../../../api/client'
import { keys } from '../../../api/keys'
import { Button, buttonClass } from '../../../ui/Button'
import { Problem } from '../../../ui/Field'
import { Loaded } from '../../../ui/states'
import { TextLink } from '../../../ui/TextLink'
import { useTitle } from '../../../ui/useTitle'
import { capital, counted, day } from '../../../ui/words'
import { noteStudied, revisionQuery } from '../queries'

type Item = Schemas['RevisionItemOut']

/** The revision plan: study sections for what was missed. */
export default function RevisionPage() {
  useTitle(t`What to study`)
  const to = useTo()
  const query = useQuery(revisionQuery(useCourse()))
  return (
    <Loaded query={query} what={t`what to study`}>
      {(plan) => (
        <main id="main" className="max-w-5xl px-5 py-8 @5xl:px-8">
          <p>
            <TextLink to={to('/review')}>{t`Review`}</TextLink>
          </p>
          <h1 className="text-3xl">
            {plan.misses === 0
              ? t`No mistakes to study for`
              : t`${plan.minutes} min of reading for ${counted(plan.misses, 'mistake')}`}
          </h1>
          <p className="mt-1 text-ink-2">{t`The section that helps with most mistakes comes first. “Studied” only takes it off this list. Two questions show whether it helped.`}</p>
          <ul className="mt-4">
            {plan.items.map((item) => (
              <Section key={item.study.topic + item.study.section} item={item} />
            ))}
          </ul>
        </main>
      )}
    </Loaded>
  )
}

function Section({ item }: { item: Item }) {
  const { study } = item
  const course = useCourse()
  const to = useTo()
  const cache = useQueryClient()
  const start = useStart()
  const mark = useMutation({
    mutationFn: () =>
      noteStudied(course, {
        topic: study.topic,
        section: study.section,
        studied: !item.studied,
      }),
    onSuccess: (next) => cache.setQueryData(keys.revision(course), next),
  })
  const goal = { kind: 'questions' as const, questions: 2, families: item.families }
  return (
    <li className="grid items-start gap-x-8 gap-y-2 border-b border-line py-4 @4xl:grid-cols-[minmax(0,1fr)_auto]">
      <div className={item.studied ? 'text-ink-2' : ''}>
        <h2 className="text-lg">
          {study.title}{' '}
          <span className="ml-3 font-sans text-base font-normal text-ink-2">
            {t`${item.topic.title}, ${study.minutes} min`}
          </span>
        </h2>
        <p className="text-ink-2">
          {capital(counted(item.answers.length, 'mistake'))}: {item.answers.join('; ')}
        </p>
        <p className="text-sm text-ink-2">
          {item.studied
            ? t`Marked as studied.`
            : item.read_at
              ? t`Read ${day(item.read_at)}.`
              : t`Not read since your mistake.`}
          {item.resources.length > 0 && t` Also: ${item.resources.join(', ')}.`}
        </p>
      </div>
      <div className="flex flex-wrap gap-2">
        <Link
          to={to(`/study/${study.topic}#${study.section}`)}
          aria-label={t`Read: ${study.title}`}
          className={buttonClass(item.studied ? 'quiet' : 'plain')}
        >{t`Read`}</Link>
        {item.families.length > 0 && (
          <Button
            kind={item.studied ? 'quiet' : 'plain'}
            disabled={start.isPending}
            onClick={() => start.mutate({ purpose: 'practice', topics: [item.topic.key], goal })}
          >{t`Try two questions`}</Button>
        )}
        <Button
          kind="quiet"
          aria-label={`${item.studied ? t`Put it back` : t`Mark as studied`}: ${study.title}`}
          disabled={mark.isPending}
          onClick={() => mark.mutate()}
        >
          {item.studied ? t`Put it back` : t`Mark as studied`}
        </Button>
      </div>
      <Problem error={start.error ?? mark.error} />
    </li>
  )
}
