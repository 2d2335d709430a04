import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { useEffect } from 'react'
import { useLocation, useNavigate } from 'react-router'
import { barSelect, Shell } from '../../account/Shell'
import type { Account } from '../../account/session'
import { keep } from '../../ui/storage'
import { writtenQuery } from './bank/queries'

/** Where the course that was last looked at is kept, to open it again. */
export const LAST_COURSE = 'vendaval.author.course'

/** The author's bar. */
export function AuthorShell({ account }: { account: Account }) {
  const here = useCourseHere()
  useEffect(() => {
    if (here) keep(LAST_COURSE, here)
  }, [here])
  return (
    <Shell
      account={account}
      as="author"
      home="/author"
      places={[
        { to: `/author/bank${here && `/${here}`}`, label: t`Bank` },
        { to: `/author/course${here && `/${here}`}`, label: t`Course` },
        { to: '/author/tests', label: t`Tests` },
        { to: '/author/faults', label: t`Reported problems` },
      ]}
      beside={<CourseSwitch />}
    />
  )
}

/** The course whose bank or structure is on the screen; "" elsewhere. */
function useCourseHere() {
  return /^\/author\/(?:bank|course)\/([^/]+)/.exec(useLocation().pathname)?.[1] ?? ''
}

/** For who writes for several courses. */
function CourseSwitch() {
  const courses = useQuery(writtenQuery).data?.courses ?? []
  const navigate = useNavigate()
  const here = useCourseHere()
  const place = useLocation().pathname.split('/')[2]
  if (courses.length < 2 || !here) return null
  return (
    <label>
      <span className="sr-only">{t`Course`}</span>
      <select
        className={barSelect}
        value={here}
        onChange={({ target }) => navigate(`/author/${place}/${target.value}`)}
      >
        {courses.map(({ key, title }) => (
          <option key={key} value={key}>
            {title}
          </option>
        ))}
      </select>
    </label>
  )
}
