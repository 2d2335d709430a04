import { lazy, Suspense } from 'react'
import { useSession } from '../account/session'
import { Loaded, Loading } from '../ui/states'
import { Boundary } from './Boundary'

const Learner = lazy(() => import('../roles/learner/Learner'))
const NoWorkYet = lazy(() => import('../roles/other/NoWorkYet'))
const SignInPage = lazy(() => import('./SignInPage'))

/** Who is signed in decides which part of the application is fetched. */
export function App() {
  const session = useSession()
  return (
    <div className="@container min-h-dvh">
      <Boundary>
        <Suspense fallback={<Loading what="Vendaval" />}>
          <Loaded query={session} what="Vendaval">
            {({ account, demo_accounts }) => {
              if (!account) return <SignInPage demo={demo_accounts} />
              if (account.roles.includes('learner')) return <Learner account={account} />
              return <NoWorkYet account={account} />
            }}
          </Loaded>
        </Suspense>
      </Boundary>
    </div>
  )
}
