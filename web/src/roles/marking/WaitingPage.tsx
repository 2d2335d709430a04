import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
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
              <li
                key={test.assignment}
                className="grid gap-x-6 border-b border-line py-3 @3xl:grid-cols-[minmax(0,1fr)_24rem]"
              >
                <div>
                  <TextLink
                    to={`/tutor/work/${test.group}/${test.assignment}/marking`}
                    className="text-lg font-semibold"
                  >
                    {test.test}
                  </TextLink>
                  <p className="text-ink-2">
                    {t`${test.group_title}, first handed in`} {since(test.since)} {t`ago`}
                  </p>
                </div>
                <p>
                  {capital(
                    [
                      test.waiting > 0 && t`${counted(test.waiting, 'answer')} to mark`,
                      test.held > 0 && t`${counted(test.held, 'attempt')} not released`,
                    ]
                      .filter(Boolean)
                      .join('; '),
                  )}
                </p>
              </li>
            ))}
          </ul>
          {handedIn.length > 0 && <h2 className="mt-7 text-xl">{t`Handed in with set work`}</h2>}
          <ul>
            {handedIn.map((one) => (
              <li
                key={one.task}
                className="grid gap-x-6 border-b border-line py-3 @3xl:grid-cols-[minmax(0,1fr)_24rem]"
              >
                <div>
                  <TextLink
                    to={`/tutor/work/${one.group}/tasks/${one.task}/hand-ins`}
                    className="text-lg font-semibold"
                  >
                    {one.title}
                  </TextLink>
                  <p className="text-ink-2">
                    {t`${one.group_title}, first handed in`} {since(one.since)} {t`ago`}
                  </p>
                </div>
                <p>{t`${one.waiting} to mark`}</p>
              </li>
            ))}
          </ul>
        </main>
      )}
    </Loaded>
  )
}
