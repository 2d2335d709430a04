import { t } from '@lingui/core/macro'
import { lazy, Suspense, useDeferredValue } from 'react'
import { Navigate, Route, Routes } from 'react-router'
import { lastRole, ROLES } from '../account/role'
import { type Account, type Session, useSession } from '../account/session'
import { Missing } from '../ui/Missing'
import { Loaded, Loading } from '../ui/states'
import { Boundary } from './Boundary'

const PracticeBanner = lazy(() => import('../account/PracticeBanner'))
const Learner = lazy(() => import('../roles/learner/Learner'))
const Tutor = lazy(() => import('../roles/tutor/Tutor'))
const Guardian = lazy(() => import('../roles/guardian/Guardian'))
const Author = lazy(() => import('../roles/author/Author'))
const Office = lazy(() => import('../roles/office/Office'))
const Common = lazy(() => import('../roles/Common'))
const ThreadsPage = lazy(() => import('../roles/common/ThreadsPage'))
const ThreadPage = lazy(() => import('../roles/common/ThreadPage'))
const MessagesPage = lazy(() => import('../roles/common/MessagesPage'))
const PeoplePage = lazy(() => import('../roles/common/PeoplePage'))
const AccountPage = lazy(() => import('../roles/common/AccountPage'))
const NoWorkYet = lazy(() => import('../roles/other/NoWorkYet'))
const OutboxPage = lazy(() => import('../roles/common/OutboxPage'))
const PhonePage = lazy(() => import('../activities/paper/PhonePage'))
// Fetched after the page stands: nothing is typed before.
const LeaveGuard = lazy(() => import('./LeaveGuard'))
const SignInPage = lazy(() => import('./SignInPage'))
const MailedPage = lazy(() => import('./MailedPage'))
const ForgottenPage = lazy(() => import('./ForgottenPage'))

/** Who is signed in decides which part of the application is fetched. */
export function App() {
  const session = useSession()
  return (
    <div className="@container min-h-dvh">
      <Boundary>
        <Suspense fallback={<Loading what={t`Vendaval`} />}>
          <Loaded query={session} what={t`Vendaval`}>
            {(now) => <Parts session={now} />}
          </Loaded>
        </Suspense>
      </Boundary>
    </div>
  )
}

/** What stands there stays until the part of who has signed in has come. React itself would say for
 * three tenths of a second at least that it loads. */
function Parts({ session }: { session: Session }) {
  const ready = useDeferredValue<Session | null>(session, null)
  const shown = session.account ? ready : session
  if (!shown) return <Loading what={t`Vendaval`} />
  const { account, demo_accounts } = shown
  return (
    <>
      <Suspense>
        <LeaveGuard />
        {account?.practising && <PracticeBanner name={account.name} />}
      </Suspense>
      <Routes>
        {demo_accounts.length > 0 && <Route path="outbox" element={<OutboxPage />} />}
        <Route path="phone/:token" element={<PhonePage />} />
        <Route path="open/:token" element={<MailedPage />} />
        {!account && <Route path="forgotten" element={<ForgottenPage />} />}
        <Route
          path="*"
          element={account ? <SignedIn account={account} /> : <SignInPage demo={demo_accounts} />}
        />
      </Routes>
    </>
  )
}

function SignedIn({ account }: { account: Account }) {
  const role = lastRole(account)
  const has = (one: Account['roles'][number]) => account.roles.includes(one)
  return (
    <Routes>
      {has('learner') && <Route path="courses/*" element={<Learner account={account} />} />}
      {has('tutor') && <Route path="tutor/*" element={<Tutor account={account} />} />}
      {has('guardian') && <Route path="guardian/*" element={<Guardian account={account} />} />}
      {has('author') && <Route path="author/*" element={<Author account={account} />} />}
      {has('office') && <Route path="office/*" element={<Office account={account} />} />}
      <Route element={<Common account={account} />}>
        <Route path="threads" element={<ThreadsPage />} />
        <Route path="threads/:id" element={<ThreadPage />} />
        <Route path="messages" element={<MessagesPage />} />
        <Route path="account" element={<AccountPage />} />
        <Route path="people" element={<PeoplePage account={account} />} />
      </Route>
      <Route
        index
        element={
          role ? (
            <Navigate to={ROLES[role]?.home ?? '/people'} replace />
          ) : (
            <NoWorkYet account={account} />
          )
        }
      />
      <Route path="*" element={<Missing />} />
    </Routes>
  )
}
