import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { buttonClass } from '../../ui/Button'
import { Loaded } from '../../ui/states'
import { TextLink } from '../../ui/TextLink'
import { useTitle } from '../../ui/useTitle'
import { capital, counted } from '../../ui/words'
import { officeQuery } from './queries'

/** What waits for the office, and why. */
export default function NowPage() {
  useTitle(t`Office`)
  const query = useQuery(officeQuery)
  return (
    <main id="main" className="max-w-4xl px-5 py-8 @5xl:px-8">
      <Loaded query={query} what={t`what is waiting`}>
        {({ school, todo, people, learners, groups }) => (
          <>
            <h1 className="text-3xl">
              {todo.length === 0
                ? t`Nothing to do right now`
                : t`${capital(counted(todo.length, 'thing'))} to check`}
            </h1>
            <p className="mt-1 text-ink-2">
              {t`${school}: ${counted(people, 'person')}, ${counted(learners, 'learner')} among them, in ${counted(groups, 'group')}.`}
            </p>
            <ul className="mt-5">
              {todo.map((one) => (
                <li key={one.what} className="border-b border-line py-3.5">
                  <TextLink to={one.path} className="text-lg font-semibold">
                    {one.what}
                  </TextLink>
                  <p className="text-ink-2">{one.why}</p>
                </li>
              ))}
            </ul>
            <p className="mt-7 flex flex-wrap gap-3">
              <Link
                to="/office/people/invite"
                className={buttonClass('strong')}
              >{t`Invite a person`}</Link>
              <Link
                to="/office/people/list"
                className={buttonClass('plain')}
              >{t`Import people`}</Link>
            </p>
          </>
        )}
      </Loaded>
    </main>
  )
}
