import { t } from '@lingui/core/macro'
import { lazy, useEffect } from 'react'
import { Navigate, Route, Routes, useParams } from 'react-router'
import { CourseProvider, keepCourse, lastCourse, useCourseList } from '../../account/course'
import type { Account } from '../../account/session'
import { Missing } from '../../ui/Missing'
import { Loaded } from '../../ui/states'
import { JoinForm } from '../common/JoinForm'
import { OpenCourses } from '../common/OpenCourses'
import { LearnerShell } from './LearnerShell'
import { TodayPage } from './today/TodayPage'

const RunPage = lazy(() => import('../../activities/RunPage'))
const SearchPage = lazy(() => import('./SearchPage'))
const TopicsPage = lazy(() => import('./topics/TopicsPage'))
const TopicPage = lazy(() => import('./topics/TopicPage'))
const PractisePage = lazy(() => import('./practise/PractisePage'))
const ReviewPage = lazy(() => import('./review/ReviewPage'))
const RehearsalPage = lazy(() => import('./practise/RehearsalPage'))
const StudyPage = lazy(() => import('./topics/StudyPage'))
const RevisionPage = lazy(() => import('./review/RevisionPage'))
const QuizPage = lazy(() => import('./practise/QuizPage'))
const AimsPage = lazy(() => import('./plan/AimsPage'))
const PlanPage = lazy(() => import('./plan/PlanPage'))
const SpellPage = lazy(() => import('./today/SpellPage'))
const RecordPage = lazy(() => import('./record/RecordPage'))
const MarksPage = lazy(() => import('./record/MarksPage'))
const TryPage = lazy(() => import('./record/TryPage'))
const ExamPage = lazy(() => import('../../activities/exam/ExamPage'))
const ReceiptPage = lazy(() => import('../../activities/exam/ReceiptPage'))
const PaperPage = lazy(() => import('../../activities/paper/PaperPage'))
const TestsPage = lazy(() => import('./tests/TestsPage'))
const TaskPage = lazy(() => import('./tests/TaskPage'))
const TestPage = lazy(() => import('./tests/TestPage'))
const ResultsPage = lazy(() => import('./results/ResultsPage'))
const ResultsWholePage = lazy(() => import('./results/ResultsWholePage'))
const ResultPage = lazy(() => import('./results/ResultPage'))

/** The learner's part: every page belongs to a course, which stands in its address. */
export default function Learner({ account }: { account: Account }) {
  const query = useCourseList()
  return (
    <Loaded query={query} what={t`your courses`}>
      {({ courses }) => {
        const first = courses.find(({ key }) => key === lastCourse(account.id)) ?? courses[0]
        if (!first) return <NoCourse account={account} />
        return (
          <Routes>
            <Route path=":course/*" element={<InCourse account={account} />} />
            <Route index element={<Navigate to={`/courses/${first.key}`} replace />} />
          </Routes>
        )
      }}
    </Loaded>
  )
}

function NoCourse({ account }: { account: Account }) {
  return (
    <main id="main" className="max-w-xl p-8">
      <h1 className="text-2xl">{t`You aren’t in a course yet`}</h1>
      <p className="mt-2 mb-5 text-ink-2">{t`Signed in as ${account.name}. Enter a code from your tutor, or ask your school to add you to a course.`}</p>
      <JoinForm />
      <div className="mt-6">
        <OpenCourses />
      </div>
    </main>
  )
}

function InCourse({ account }: { account: Account }) {
  const { course: key } = useParams()
  const courses = useCourseList().data?.courses ?? []
  const course = courses.find((one) => one.key === key)
  useEffect(() => {
    if (course) keepCourse(account.id, course.key)
  }, [account.id, course])
  if (!course) return <Missing />
  return (
    <CourseProvider key={course.key} here={{ course, courses, account: account.id }}>
      <Routes>
        <Route path="run/:id" element={<RunPage />} />
        <Route path="attempts/:id" element={<ExamPage />} />
        <Route element={<LearnerShell account={account} course={course.key} />}>
          <Route index element={<TodayPage />} />
          <Route path="topics" element={<TopicsPage />} />
          <Route path="search" element={<SearchPage />} />
          <Route path="topics/:key" element={<TopicPage />} />
          <Route path="practise" element={<PractisePage />} />
          <Route path="review" element={<ReviewPage />} />
          <Route path="review/:id" element={<ReviewPage />} />
          <Route path="revision" element={<RevisionPage />} />
          <Route path="quiz" element={<QuizPage />} />
          <Route path="tests" element={<TestsPage />} />
          <Route path="work/:id" element={<TaskPage />} />
          <Route path="tests/:ref" element={<TestPage />} />
          <Route path="tests/attempts/:id/receipt" element={<ReceiptPage />} />
          <Route path="tests/attempts/:id/pages" element={<PaperPage />} />
          <Route path="tests/attempts/:id/results" element={<ResultsPage />} />
          <Route path="tests/attempts/:id/whole" element={<ResultsWholePage />} />
          <Route path="tests/attempts/:id/results/:number" element={<ResultPage />} />
          <Route path="marks" element={<MarksPage />} />
          <Route path="record" element={<RecordPage />} />
          <Route path="record/tries/:id" element={<TryPage />} />
          <Route path="rehearsal" element={<RehearsalPage />} />
          <Route path="study/:key" element={<StudyPage />} />
          <Route path="aims" element={<AimsPage />} />
          <Route path="plan" element={<PlanPage />} />
          <Route path="spell/:id" element={<SpellPage />} />
          <Route path="*" element={<Missing />} />
        </Route>
      </Routes>
    </CourseProvider>
  )
}
