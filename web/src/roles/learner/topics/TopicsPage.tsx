import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { useCourse, useTo } from '../../../account/course'
import { useStart } from '../../../activities/requests'
import type { Schemas, TopicLine } from '../../../api/client'
import { Button, buttonClass } from '../../../ui/Button'
import { DriftAxis } from '../../../ui/DriftAxis'
import { DriftBar } from '../../../ui/DriftBar'
import { Loaded } from '../../../ui/states'
import { useTitle } from '../../../ui/useTitle'
import { counted, day } from '../../../ui/words'
import { isMet } from '../../reading/standing'
import { topicsQuery } from '../queries'

const GRID =
  'grid grid-cols-2 items-center gap-x-6 gap-y-1 @4xl:grid-cols-[13rem_minmax(0,1fr)_5.500rem_8rem_8rem_10rem]'

export default function TopicsPage() {
  useTitle(t`Topics`)
  const query = useQuery(topicsQuery(useCourse()))
  const start = useStart()
  const to = useTo()
  return (
    <Loaded query={query} what={t`your topics`}>
      {(page) => (
        <main id="main" className="px-5 py-8 @5xl:px-8">
          <div className="flex flex-wrap items-baseline justify-between gap-x-8 gap-y-3">
            <h1 className="text-3xl">{page.headline}</h1>
            <span className="flex flex-wrap gap-3">
              <Link to={to('/search')} className={buttonClass('plain')}>{t`Search`}</Link>
              {page.subjects.length > 1 && (
                <Button
                  disabled={start.isPending}
                  onClick={() => start.mutate({ purpose: 'diagnostic', subject: null })}
                >{t`Diagnostic: all subjects`}</Button>
              )}
            </span>
          </div>
          <p className="mt-1 text-ink-2">{t`Level: how many out of 100 questions on this topic you’d know without guessing`}</p>
          {start.error && (
            <p role="alert" className="text-wrong">
              {start.error.message}
            </p>
          )}
          <div
            className={`${GRID} mt-4 hidden border-b border-line pb-1 text-sm text-ink-2 @4xl:grid`}
          >
            <span />
            <DriftAxis />
            <span className="text-right">{t`level`}</span>
            <span>{t`chance you’re there`}</span>
            <span>{t`ideas covered`}</span>
            <span>{t`next`}</span>
          </div>
          {page.subjects.map((subject) => (
            <SubjectRows key={subject.key} subject={subject} />
          ))}
        </main>
      )}
    </Loaded>
  )
}

function SubjectRows({ subject }: { subject: Schemas['SubjectOut'] }) {
  const to = useTo()
  const start = useStart()
  return (
    <section className="mt-6" aria-labelledby={`subject-${subject.key}`}>
      <div className="flex items-center justify-between">
        <h2 id={`subject-${subject.key}`} className="text-lg text-ink-2">
          {subject.title}
        </h2>
        <Button
          kind="quiet"
          disabled={start.isPending}
          onClick={() => start.mutate({ purpose: 'diagnostic', subject: subject.key })}
        >
          {t`Diagnostic: ${subject.title.toLowerCase()}`}
        </Button>
      </div>
      {start.error && (
        <p role="alert" className="text-wrong">
          {start.error.message}
        </p>
      )}
      <ul>
        {subject.topics.map((topic) => (
          <li key={topic.key} className={`${GRID} border-b border-line py-2.5`}>
            <Link
              to={to(`/topics/${topic.key}`)}
              className="col-span-2 font-semibold hover:underline @4xl:col-span-1"
            >
              {topic.title}
            </Link>
            <div className="col-span-2 @4xl:col-span-1">
              <DriftBar
                name={topic.title}
                reading={topic.reading}
                past={topic.past}
                met={isMet(topic)}
              />
            </div>
            <span className="font-heading text-lg font-semibold tabular-nums @4xl:text-right">
              <span className="font-sans text-sm font-normal text-ink-2 @4xl:sr-only">
                {t`level`}{' '}
              </span>
              {topic.reading.level ?? (
                <span className="font-sans text-base font-normal whitespace-nowrap text-ink-2">{t`not known`}</span>
              )}
            </span>
            <span>
              <span className="text-sm text-ink-2 @4xl:sr-only">{t`chance you’re there`} </span>
              {topic.reading.level === null ? (
                <>
                  <span aria-hidden="true" className="text-ink-2">
                    –
                  </span>
                  <span className="sr-only">{t`not known yet`}</span>
                </>
              ) : (
                <span className="whitespace-nowrap">
                  {chance(topic)} {t`in 100`}
                </span>
              )}
            </span>
            <span>
              <span className="text-sm text-ink-2 @4xl:sr-only">{t`ideas covered`} </span>
              {t`${topic.covered} of ${topic.essential}`}
            </span>
            <span className="text-ink-2">{nextWords(topic)}</span>
          </li>
        ))}
      </ul>
    </section>
  )
}

const chance = (topic: TopicLine) => Math.min(99, Math.round(100 * topic.reading.chance))

function nextWords(topic: TopicLine): string {
  if (topic.state === 'not_yet') return t`not taught yet`
  if (topic.misses > 0) return t`${counted(topic.misses, 'mistake')} to correct`
  if (topic.state === 'check') return t`needs a check`
  if (topic.state === 'secure')
    return topic.recheck_at ? t`remembered, next check ${day(topic.recheck_at)}` : 'secure'
  if (topic.state === 'met') return topic.met_at ? t`reached ${day(topic.met_at)}` : 'met'
  const [before] = topic.waits_for
  if (before) return t`after ${before.toLowerCase()}`
  return topic.state === 'unknown' ? t`in the diagnostic` : 'practise'
}
