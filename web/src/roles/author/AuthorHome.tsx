import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { Navigate } from 'react-router'
import { Loaded } from '../../ui/states'
import { writtenQuery } from './bank/queries'

/** The bank of the author’s course; of several, a choice. */
export default function AuthorHome({ home }: { home: string }) {
  const query = useQuery(writtenQuery)
  return (
    <Loaded query={query} what={t`your courses`}>
      {({ courses: [first] }) =>
        first ? (
          <Navigate to={`${home}/bank/${first.key}`} replace />
        ) : (
          <main id="main" className="px-5 py-8 @5xl:px-8">
            <h1 className="text-3xl">{t`You aren’t an author of a course yet`}</h1>
          </main>
        )
      }
    </Loaded>
  )
}
