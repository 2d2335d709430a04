import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { useParams } from 'react-router'
import type { Schemas } from '../../../api/client'
import { Loaded } from '../../../ui/states'
import { TextLink } from '../../../ui/TextLink'
import { useTitle } from '../../../ui/useTitle'
import { capital, counted, hour, longDay, untilDay } from '../../../ui/words'
import { groupCalendarQuery } from '../queries'

type Entry = Schemas['DayEntryOut']

const WORDS: Record<Entry['kind'], string> = {
  opens: 'opens',
  due: t`is due`,
  closes: 'closes',
  recheck: '',
  exam: '',
}

/** What the days bring a group: set work, rechecks, the exam. */
export default function CalendarPage() {
  const id = Number(useParams().group)
  useTitle(t`Calendar`)
  const query = useQuery(groupCalendarQuery(id))
  return (
    <main id="main" className="max-w-4xl px-5 py-8 @5xl:px-8">
      <Loaded query={query} what={t`the calendar`}>
        {({ group, today, days }) => (
          <>
            <p>
              <TextLink to={`/tutor/groups/${id}`}>{group}</TextLink>
            </p>
            <h1 className="text-3xl">{headline(today, days)}</h1>
            <p className="mt-1 text-ink-2">{t`The last week and the next six. To see this in your own calendar, get its address under Codes and links.`}</p>
            <ol className="mt-5">
              {days.map((one) => (
                <li
                  key={one.on}
                  className={`grid gap-x-6 border-b border-line py-3 @3xl:grid-cols-[14rem_minmax(0,1fr)] ${one.on < today ? 'text-ink-2' : ''}`}
                >
                  <h2 className="font-sans text-base font-semibold">
                    {longDay(one.on)}
                    <span className="block text-sm font-normal text-ink-2">
                      {one.on < today ? 'past' : untilDay(today, one.on)}
                    </span>
                  </h2>
                  <ul>
                    {one.entries.map((entry) => (
                      <li key={`${entry.kind} ${entry.title}`}>
                        <Line entry={entry} />
                      </li>
                    ))}
                  </ul>
                </li>
              ))}
            </ol>
          </>
        )}
      </Loaded>
    </main>
  )
}

function headline(today: string, days: Schemas['GroupDayOut'][]) {
  const due = days
    .filter((one) => one.on >= today)
    .flatMap((one) => one.entries.filter((entry) => entry.kind === 'due').map(() => one.on))
  const [first] = due
  if (!first) return t`Nothing is due in the next six weeks`
  return t`${capital(counted(due.length, 'piece'))} of work due, the first ${untilDay(today, first)}`
}

function Line({ entry }: { entry: Entry }) {
  if (entry.kind === 'exam') return <strong>{t`Exam`}</strong>
  if (entry.kind === 'recheck')
    return <>{t`A check is due for ${counted(entry.learners, 'learner')}`}</>
  return (
    <>
      {entry.path ? (
        <TextLink to={entry.path} className="font-semibold">
          {entry.title}
        </TextLink>
      ) : (
        entry.title
      )}{' '}
      {WORDS[entry.kind]}
      {entry.at && `, ${hour(entry.at)}`}
    </>
  )
}
