import { t } from '@lingui/core/macro'
import { lazy } from 'react'
import { Route, Routes } from 'react-router'
import type { Account } from '../../account/session'
import { Missing } from '../../ui/Missing'
import { useTitle } from '../../ui/useTitle'
import { ThreadList } from '../common/ThreadList'
import { AuthorShell } from './AuthorShell'

const ComposePage = lazy(() => import('../composing/ComposePage'))
const ComposedPage = lazy(() => import('../composing/ComposedPage'))
const TestAnalysisPage = lazy(() =>
  import('../tutor/outcomes/AnalysisPage').then((one) => ({ default: one.TestAnalysisPage })),
)
const AuthorHome = lazy(() => import('./AuthorHome'))
const BankPage = lazy(() => import('./bank/BankPage'))
const CoursePlace = lazy(() => import('./CoursePlace'))
const ExamplesPage = lazy(() => import('./examples/ExamplesPage'))
const CoursePage = lazy(() => import('./course/CoursePage'))
const StudyEditor = lazy(() => import('./course/StudyEditor'))
const TrialsPage = lazy(() => import('./trials/TrialsPage'))
const NewTrial = lazy(() => import('./trials/NewTrial'))
const CalibrationPage = lazy(() => import('./calibration/CalibrationPage'))
const ImportsPage = lazy(() => import('./exchange/ImportsPage'))
const ImportPage = lazy(() => import('./exchange/ImportPage'))
const HistoryPage = lazy(() => import('./family/HistoryPage'))
const NewQuestion = lazy(() => import('./bank/NewQuestion'))
const FamilyPage = lazy(() => import('./family/FamilyPage'))
const ComposingPage = lazy(() => import('../composing/ComposingPage'))

/** The author's part: reports of faults, without names, and tests of the courses. */
export default function Author({ account }: { account: Account }) {
  return (
    <Routes>
      <Route element={<AuthorShell account={account} />}>
        <Route index element={<AuthorHome home="/author" />} />
        <Route path="bank" element={<AuthorHome home="/author" />} />
        <Route path="bank/:course" element={<BankPage home="/author" />} />
        <Route path="bank/:course" element={<CoursePlace />}>
          <Route path="examples" element={<ExamplesPage />} />
          <Route path="new" element={<NewQuestion />} />
          <Route path=":family" element={<FamilyPage />} />
          <Route path=":family/history" element={<HistoryPage />} />
        </Route>
        <Route path="course" element={<AuthorHome home="/author" place="course" />} />
        <Route path="course/:course" element={<CoursePage />} />
        <Route path="course/:course/pages/:topic" element={<StudyEditor />} />
        <Route path="course/:course/trials" element={<TrialsPage />} />
        <Route path="course/:course/trials/new" element={<NewTrial />} />
        <Route path="course/:course/calibration" element={<CalibrationPage />} />
        <Route path="course/:course/imports" element={<ImportsPage />} />
        <Route path="course/:course/imports/:number" element={<ImportPage />} />
        <Route path="faults" element={<FaultsPage />} />
        <Route path="tests" element={<ComposingPage home="/author" />} />
        <Route path="tests/:course" element={<ComposedPage home="/author" />} />
        <Route path="tests/:course/new" element={<ComposePage home="/author" />} />
        <Route path="tests/:course/:test/analysis" element={<TestAnalysisPage home="/author" />} />
        <Route path="tests/:course/:test" element={<ComposePage key="one" home="/author" />} />
        <Route path="*" element={<Missing />} />
      </Route>
    </Routes>
  )
}

function FaultsPage() {
  useTitle(t`Reported problems`)
  return (
    <main id="main" className="max-w-5xl px-5 py-8 @5xl:px-8">
      <h1 className="text-3xl">{t`Reported problems`}</h1>
      <p className="mt-1 text-ink-2">{t`Questions that learners think are wrong, with the version they saw. You don’t see their names.`}</p>
      <ThreadList of="faults" first="open" none={t`No problems reported.`} />
    </main>
  )
}
