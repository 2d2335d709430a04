import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import type { ReactNode } from 'react'
import { Loaded } from '../../ui/states'
import { TextLink } from '../../ui/TextLink'
import { useTitle } from '../../ui/useTitle'
import { capital, counted, since } from '../../ui/words'
import { waitingHandInsQuery, waitingMarksQuery } from './queries'

/** What waits for a marker over all groups. */
export default function WaitingPage() {
  const query = useQuery(waitingMarksQuery)
  const handedIn = useQuery(waitingHandInsQuery).data?.tasks ?? []
  useTitle(t`Marking`)
  return (
    <Loaded query={query} what={t`what is waiting`}>
      {({ tests }) => (
        <main id="main" className="max-w-5xl px-5 py-8 @5xl:px-8">
          <h1 className="text-3xl">{t`Marking`}</h1>
          <p className="mt-1.5 text-ink-2">
            {tests.length + handedIn.length === 0
              ? t`You have no answers to mark, and all marks are released.`
              : t`Longest wait first. Learners see marks once you release them.`}
          </p>
          <ul className="mt-4">
            {tests.map((test) => (
              <Line
                key={test.assignment}
                to={`/tutor/work/${test.group}/${test.assignment}/marking`}
                title={test.test}
                group={test.group_title}
                from={test.since}
              >
                {capital(
                  [
                    test.waiting > 0 && t`${counted(test.waiting, 'answer')} to mark`,
                    test.held > 0 && t`${counted(test.held, 'attempt')} not released`,
                  ]
                    .filter(Boolean)
                    .join('; '),
                )}
              </Line>
            ))}
          </ul>
          {handedIn.length > 0 && <h2 className="mt-7 text-xl">{t`Handed in with set work`}</h2>}
          <ul>
            {handedIn.map((one) => (
              <Line
                key={one.task}
                to={`/tutor/work/${one.group}/tasks/${one.task}/hand-ins`}
                title={one.title}
                group={one.group_title}
                from={one.since}
              >
                {t`${one.waiting} to mark`}
              </Line>
            ))}
          </ul>
        </main>
      )}
    </Loaded>
  )
}

/** What waits in one place, and since when. */
function Line(props: {
  to: string
  title: string
  group: string
  from: string
  children: ReactNode
}) {
  return (
    <li className="grid gap-x-6 border-b border-line py-3 @3xl:grid-cols-[minmax(0,1fr)_24rem]">
      <div>
        <TextLink to={props.to} className="text-lg font-semibold">
          {props.title}
        </TextLink>
        <p className="text-ink-2">
          {t`${props.group}, first handed in`} {since(props.from)} {t`ago`}
        </p>
      </div>
      <p>{props.children}</p>
    </li>
  )
}
