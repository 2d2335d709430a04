import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { Link, useParams } from 'react-router'
import type { Schemas } from '../../api/client'
import { buttonClass } from '../../ui/Button'
import { DriftBar } from '../../ui/DriftBar'
import { Loaded } from '../../ui/states'
import { useTitle } from '../../ui/useTitle'
import { counted, day } from '../../ui/words'
import { Accommodation } from '../tutor/learner/Accommodation'
import { Notes } from '../tutor/learner/Notes'
import { learnerQuery } from './queries'
import { SetWork } from './SetWork'
import { isMet } from './standing'

/** A learner as their tutor or guardian sees them. home: where that reader's pages begin. */
export default function LearnerPage({ home }: { home: string }) {
  const id = Number(useParams().learner)
  const query = useQuery(learnerQuery(id))
  return (
    <Loaded query={query} what={t`the learner`}>
      {(page) => <Opened page={page} home={home} />}
    </Loaded>
  )
}

function Opened({ page, home }: { page: Schemas['RelatedOut']; home: string }) {
  useTitle(page.name)
  const own = `${home}/learners/${page.id}`
  return (
    <main id="main" className="px-5 py-8 @5xl:px-8">
      <div className="flex flex-wrap items-start justify-between gap-4">
        <div>
          <p className="text-ink-2">
            {t`${page.course_title}, read only`}
            {page.exam_on && t`, exam ${day(page.exam_on)}`}
          </p>
          <h1 className="text-3xl">{page.name}</h1>
          <p className="mt-1 text-[1.05rem]">{page.lead}</p>
        </div>
        <p className="flex flex-wrap gap-3">
          <Link to={`${own}/talk`} className={buttonClass('plain')}>
            {home === '/tutor' ? t`Write to the guardians` : t`Write to the tutor`}
          </Link>
          <Link to={`${own}/marks`} className={buttonClass('plain')}>{t`Marks`}</Link>
          <Link to={`${own}/record`} className={buttonClass('plain')}>{t`All answers`}</Link>
        </p>
      </div>
      {page.help.length > 0 && (
        <section aria-label={t`How to help`} className="mt-6 max-w-3xl rounded-box bg-sheet p-5">
          <h2 className="text-xl">{t`How you can help`}</h2>
          {page.help.map((says) => (
            <p key={says} className="mt-1.5 text-[1.05rem]">
              {says}
            </p>
          ))}
        </section>
      )}
      <div className="mt-6 grid gap-x-12 gap-y-8 @5xl:grid-cols-[minmax(0,1fr)_24rem]">
        <section className="min-w-0">
          {page.subjects.map((subject) => (
            <div key={subject.key} className="mb-5">
              <h2 className="text-lg text-ink-2">{subject.title}</h2>
              <ul>
                {subject.topics.map((topic) => (
                  <li
                    key={topic.key}
                    className="grid grid-cols-[minmax(0,1fr)_2.500rem] items-center gap-x-5 py-1 @xl:grid-cols-[minmax(8rem,14rem)_minmax(0,1fr)_2.500rem]"
                  >
                    <Link to={`${own}/topics/${topic.key}`} className="hover:underline">
                      {topic.title}
                    </Link>
                    <span className="order-last col-span-2 min-w-0 @xl:order-none @xl:col-span-1">
                      {topic.state === 'not_yet' ? (
                        <span className="text-ink-3">{t`not taught yet`}</span>
                      ) : (
                        <DriftBar
                          name={topic.title}
                          reading={topic.reading}
                          past={topic.past}
                          met={isMet(topic)}
                        />
                      )}
                    </span>
                    <span className="text-right font-heading font-semibold tabular-nums">
                      {topic.state !== 'not_yet' && (topic.reading.level ?? '?')}
                    </span>
                  </li>
                ))}
              </ul>
            </div>
          ))}
        </section>
        <div>
          <Beside page={page} />
          {home === '/tutor' && (
            <>
              <Accommodation learner={page.id} name={page.name} />
              <div className="mt-6">
                <Notes learner={page.id} />
              </div>
            </>
          )}
        </div>
      </div>
    </main>
  )
}

function Beside({ page }: { page: Schemas['RelatedOut'] }) {
  return (
    <aside aria-label={t`Effort and what comes`} className="grid content-start gap-6">
      <section>
        <h2 className="text-xl">{t`Effort`}</h2>
        <p className="mt-1">
          {t`${page.minutes_this_week} min of work in the last seven days, ${page.minutes_before} min in the seven before.`}
        </p>
        <p className="text-ink-2">
          {page.last_at ? t`Last answer ${day(page.last_at)}` : t`No answer yet`}
          {page.misses > 0 && t`; ${counted(page.misses, 'mistake')} to correct`}.
        </p>
        <MinutesAWeek weeks={page.weeks.slice(-6)} />
      </section>
      <SetWork work={page.set_work} />
      {page.signals.length > 0 && (
        <section>
          <h2 className="text-xl">{t`Worth a conversation`}</h2>
          <ul className="mt-1 grid gap-2">
            {page.signals.map((signal) => (
              <li key={signal}>{signal}</li>
            ))}
          </ul>
        </section>
      )}
      <List title={t`In progress`} items={page.under_way} />
      <List title={t`Coming up`} items={page.coming} />
    </aside>
  )
}

/** Minutes on answers, week by week, as a short table that anybody can read. */
function MinutesAWeek({ weeks }: { weeks: Schemas['WeekOut'][] }) {
  const most = Math.max(60, ...weeks.map((week) => week.minutes))
  return (
    <table className="mt-2 w-full text-left">
      <caption className="sr-only">{t`Minutes on answers in the last weeks`}</caption>
      <tbody>
        {weeks.map((week) => (
          <tr key={week.on}>
            <th scope="row" className="w-32 font-normal text-ink-2">
              {t`week of ${day(week.on)}`}
            </th>
            <td>
              <svg aria-hidden="true" className="block w-full" height="12">
                <rect
                  width={`${(100 * week.minutes) / most}%`}
                  height="12"
                  rx="3"
                  fill="var(--v-gust-mid)"
                  stroke="var(--v-bar-edge)"
                />
              </svg>
            </td>
            <td className="w-20 text-right tabular-nums">{t`${week.minutes} min`}</td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

function List({ title, items }: { title: string; items: string[] }) {
  if (items.length === 0) return null
  return (
    <section>
      <h2 className="text-xl">{title}</h2>
      <ul className="mt-1">
        {items.map((item) => (
          <li key={item}>{item}</li>
        ))}
      </ul>
    </section>
  )
}
