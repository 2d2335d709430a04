import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { Navigate } from 'react-router'
import { Loaded } from '../../ui/states'
import { writtenQuery } from './bank/queries'

/** A page of the author’s first course: its bank, or another. */
export default function AuthorHome({ home, place = 'bank' }: { home: string; place?: string }) {
  const query = useQuery(writtenQuery)
  return (
    <Loaded query={query} what={t`your courses`}>
      {({ courses: [first] }) =>
        first ? (
          <Navigate to={`${home}/${place}/${first.key}`} replace />
        ) : (
          <main id="main" className="px-5 py-8 @5xl:px-8">
            <h1 className="text-3xl">{t`You aren’t an author of a course yet`}</h1>
          </main>
        )
      }
    </Loaded>
  )
}
