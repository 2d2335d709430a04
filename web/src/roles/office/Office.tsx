import { lazy } from 'react'
import { Route, Routes } from 'react-router'
import type { Account } from '../../account/session'
import { Missing } from '../../ui/Missing'
import { OfficeShell } from './OfficeShell'

const NowPage = lazy(() => import('./NowPage'))
const PeopleListPage = lazy(() => import('./PeopleListPage'))
const PersonPage = lazy(() => import('./PersonPage'))
const InvitePage = lazy(() => import('./InvitePage'))
const ListPage = lazy(() => import('./ListPage'))
const OfficeGroupsPage = lazy(() => import('./OfficeGroupsPage'))
const OfficeGroupPage = lazy(() => import('./OfficeGroupPage'))
const SchoolPage = lazy(() => import('./SchoolPage'))
const LogPage = lazy(() => import('./LogPage'))
const MailsPage = lazy(() => import('./MailsPage'))
const FairnessPage = lazy(() => import('./FairnessPage'))
const ProgramsPage = lazy(() => import('./programs/ProgramsPage'))
const SystemPage = lazy(() => import('./SystemPage'))

/** The office's part: people, groups and the house itself; no answers. */
export default function Office({ account }: { account: Account }) {
  return (
    <Routes>
      <Route element={<OfficeShell account={account} />}>
        <Route index element={<NowPage />} />
        <Route path="people" element={<PeopleListPage />} />
        <Route path="people/invite" element={<InvitePage />} />
        <Route path="people/list" element={<ListPage />} />
        <Route path="people/:person" element={<PersonPage />} />
        <Route path="groups" element={<OfficeGroupsPage />} />
        <Route path="groups/:group" element={<OfficeGroupPage />} />
        <Route path="school" element={<SchoolPage />} />
        <Route path="log" element={<LogPage />} />
        <Route path="mails" element={<MailsPage />} />
        <Route path="fairness" element={<FairnessPage />} />
        <Route path="programs" element={<ProgramsPage />} />
        <Route path="system" element={<SystemPage />} />
        <Route path="*" element={<Missing />} />
      </Route>
    </Routes>
  )
}
