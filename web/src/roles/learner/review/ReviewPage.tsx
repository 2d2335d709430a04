import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { Link, NavLink, useParams, useSearchParams } from 'react-router'
import { useCourse, useTo } from '../../../account/course'
import { useStart } from '../../../activities/requests'
import type { Schemas } from '../../../api/client'
import { Button, buttonClass } from '../../../ui/Button'
import { fieldClass, Labelled, Problem } from '../../../ui/Field'
import { Loaded } from '../../../ui/states'
import { useTitle } from '../../../ui/useTitle'
import { capital, counted, day } from '../../../ui/words'
import { type MissOrder, missesQuery } from '../queries'
import { MissDetail } from './MissDetail'

const ORDERS: [MissOrder, string][] = [
  ['topic', t`By topic`],
  ['sure', t`Surest first`],
  ['newest', t`Newest first`],
]

export default function ReviewPage() {
  useTitle(t`Review`)
  const { id } = useParams()
  const [params, setParams] = useSearchParams()
  const order = ORDERS.find(([key]) => key === params.get('order'))?.[0] ?? 'topic'
  const query = useQuery(missesQuery(useCourse(), order))
  return (
    <Loaded query={query} what={t`what was missed`}>
      {(list) => {
        const first = list.topics[0]?.misses[0]?.id
        const opened = id ? Number(id) : undefined
        if (first === undefined && opened === undefined && list.set_aside.length === 0)
          return <NothingMissed />
        const shown = opened ?? first
        return (
          <main
            id="main"
            className="@4xl:grid @4xl:min-h-[calc(100dvh-3.5rem)] @4xl:grid-cols-[21rem_minmax(0,1fr)]"
          >
            <MissList
              list={list}
              shown={shown}
              narrowHidden={opened !== undefined}
              onOrder={(next) => setParams({ order: next }, { replace: true })}
            />
            <div className={`min-w-0 bg-sheet ${opened === undefined ? 'hidden @4xl:block' : ''}`}>
              {shown !== undefined && <MissDetail key={shown} id={shown} />}
            </div>
          </main>
        )
      }}
    </Loaded>
  )
}

function NothingMissed() {
  const to = useTo()
  return (
    <main id="main" className="max-w-xl px-5 py-10 @5xl:px-8">
      <h1 className="text-3xl">{t`No mistakes to correct`}</h1>
      <p className="mt-2 mb-5 text-ink-2">{t`Questions you get wrong first time appear here, with the right answer beside yours.`}</p>
      <p className="flex flex-wrap gap-3">
        <Link to={to('/')} className={buttonClass('strong')}>{t`See what comes next`}</Link>
        <Link to={to('/quiz')} className={buttonClass('plain')}>{t`Make a quiz`}</Link>
      </p>
    </main>
  )
}

const sureWords = (sure: number | null) => (sure === null ? '' : sure === 100 ? 'sure' : `${sure}%`)

function MissList({
  list,
  shown,
  narrowHidden,
  onOrder,
}: {
  list: Schemas['MissListOut']
  shown: number | undefined
  narrowHidden: boolean
  onOrder: (order: MissOrder) => void
}) {
  const to = useTo()
  const start = useStart()
  const first = list.topics[0]?.misses[0]?.id
  const search = list.order === 'topic' ? '' : `?order=${list.order}`
  return (
    <nav
      aria-label={t`Missed questions`}
      className={`bg-rail py-7 pl-5 @5xl:pl-8 ${narrowHidden ? 'hidden @4xl:block' : ''}`}
    >
      <h1 className="pr-5 text-2xl">{t`${capital(counted(list.total, 'mistake'))} to correct`}</h1>
      {list.total > 1 && (
        <Labelled label={t`Order`} className="mt-2 pr-5">
          <select
            className={fieldClass}
            value={list.order}
            onChange={(event) => onOrder(event.target.value as MissOrder)}
          >
            {ORDERS.map(([key, title]) => (
              <option key={key} value={key}>
                {title}
              </option>
            ))}
          </select>
        </Labelled>
      )}
      <p className="mt-3 flex flex-wrap gap-2 pr-5">
        {first !== undefined && list.total > 1 && (
          <Button
            disabled={start.isPending}
            onClick={() => start.mutate({ purpose: 'missed', miss: first, order: list.order })}
          >{t`Correct them one after another`}</Button>
        )}
        <Link to={to('/revision')} className={buttonClass('plain')}>{t`What to study`}</Link>
        <Link to={to('/quiz')} className={buttonClass('plain')}>{t`Make a quiz`}</Link>
      </p>
      <Problem error={start.error} />
      {list.topics.map((group) => (
        <section key={group.topic?.key ?? ''} className="mt-5">
          <h2 className="flex justify-between pr-3.5 text-base text-ink-2">
            {group.topic?.title ?? t`All topics`} <span>{group.misses.length}</span>
          </h2>
          <ul className="mt-1">
            {group.misses.map((miss) => (
              <li key={miss.id}>
                <NavLink
                  to={to(`/review/${miss.id}${search}`)}
                  className={`flex justify-between gap-3 rounded-l-lg px-3.5 py-2 ${
                    miss.id === shown ? '@4xl:bg-sheet @4xl:font-semibold' : 'hover:bg-sheet/60'
                  }`}
                >
                  <span>
                    {miss.title}
                    {group.topic === null && (
                      <span className="block text-sm text-ink-2">
                        {miss.topic.title}, {day(miss.at)}
                      </span>
                    )}
                  </span>
                  {miss.sure !== null && (
                    <span className="shrink-0 text-sm text-wrong">
                      <span className="sr-only">{t`you were`} </span>
                      {sureWords(miss.sure)}
                    </span>
                  )}
                </NavLink>
              </li>
            ))}
          </ul>
        </section>
      ))}
      {list.set_aside.length > 0 && (
        <details className="mt-6 pr-5">
          <summary className="cursor-pointer text-ink-2">{t`Questions you set aside`}</summary>
          <ul className="mt-1">
            {list.set_aside.map((miss) => (
              <li key={miss.id}>
                <NavLink
                  to={to(`/review/${miss.id}`)}
                  className="block px-3.5 py-1.5 hover:underline"
                >
                  {miss.title}
                </NavLink>
              </li>
            ))}
          </ul>
        </details>
      )}
      {list.shown < list.total && (
        <p className="mt-4 pr-5 text-sm text-ink-2">{t`Showing the first ${list.shown} of ${list.total}. The others appear as you correct these.`}</p>
      )}
    </nav>
  )
}
