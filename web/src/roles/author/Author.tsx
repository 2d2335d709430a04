import { Route, Routes } from 'react-router'
import type { Account } from '../../account/session'
import { Missing } from '../../ui/Missing'
import { useTitle } from '../../ui/useTitle'
import { ThreadList } from '../common/ThreadList'
import { AuthorShell } from './AuthorShell'

/** The author's part: reports of faults, without names. */
export default function Author({ account }: { account: Account }) {
  return (
    <Routes>
      <Route element={<AuthorShell account={account} />}>
        <Route index element={<FaultsPage />} />
        <Route path="*" element={<Missing />} />
      </Route>
    </Routes>
  )
}

function FaultsPage() {
  useTitle('Fault reports')
  return (
    <main id="main" className="max-w-5xl px-5 py-8 @5xl:px-8">
      <h1 className="text-3xl">Fault reports</h1>
      <p className="mt-1 text-ink-2">
        Questions that learners think faulty, with the version they met. Names are left out.
      </p>
      <ThreadList of="faults" first="open" none="Nothing is reported." />
    </main>
  )
}
