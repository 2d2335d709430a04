import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { Navigate } from 'react-router'
import { Loaded } from '../../ui/states'
import { readKept } from '../../ui/storage'
import { LAST_COURSE } from './AuthorShell'
import { writtenQuery } from './bank/queries'

/** A page of the course an author looked at last, or else of the first: its bank, or another. */
export default function AuthorHome({ home, place = 'bank' }: { home: string; place?: string }) {
  const query = useQuery(writtenQuery)
  return (
    <Loaded query={query} what={t`your courses`}>
      {({ courses }) => {
        const last = readKept(LAST_COURSE)
        const course = courses.find(({ key }) => key === last) ?? courses[0]
        return course ? (
          <Navigate to={`${home}/${place}/${course.key}`} replace />
        ) : (
          <main id="main" className="px-5 py-8 @5xl:px-8">
            <h1 className="text-3xl">{t`You aren’t an author of a course yet`}</h1>
          </main>
        )
      }}
    </Loaded>
  )
}
