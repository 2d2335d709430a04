import { lazy } from 'react'
import { Navigate, Route, Routes, useParams } from 'react-router'
import { CourseProvider, useCourseList } from '../../account/course'
import type { Account } from '../../account/session'
import { Missing } from '../../ui/Missing'
import { Loaded } from '../../ui/states'
import { Shell } from './Shell'
import { TodayPage } from './TodayPage'

const RunPage = lazy(() => import('../../activities/RunPage'))
const TopicsPage = lazy(() => import('./TopicsPage'))
const TopicPage = lazy(() => import('./TopicPage'))
const PractisePage = lazy(() => import('./PractisePage'))
const ReviewPage = lazy(() => import('./ReviewPage'))
const RehearsalPage = lazy(() => import('./RehearsalPage'))
const StudyPage = lazy(() => import('./StudyPage'))

/** The learner's part: every page belongs to a course, which stands in its address. */
export default function Learner({ account }: { account: Account }) {
  const query = useCourseList()
  return (
    <Loaded query={query} what="your courses">
      {({ courses }) => {
        const [first] = courses
        if (!first) return <NoCourse account={account} />
        return (
          <Routes>
            <Route path="courses/:course/*" element={<InCourse account={account} />} />
            <Route index element={<Navigate to={`/courses/${first.key}`} replace />} />
            <Route path="*" element={<Missing />} />
          </Routes>
        )
      }}
    </Loaded>
  )
}

function NoCourse({ account }: { account: Account }) {
  return (
    <main id="main" className="max-w-xl p-8">
      <h1 className="text-2xl">You are in no course yet</h1>
      <p className="mt-2 text-ink-2">
        Signed in as {account.name}. Your school puts you into one; then it is here.
      </p>
    </main>
  )
}

function InCourse({ account }: { account: Account }) {
  const { course: key } = useParams()
  const courses = useCourseList().data?.courses ?? []
  const course = courses.find((one) => one.key === key)
  if (!course) return <Missing />
  return (
    <CourseProvider key={course.key} here={{ course, courses, account: account.id }}>
      <Routes>
        <Route path="run/:id" element={<RunPage />} />
        <Route element={<Shell account={account} />}>
          <Route index element={<TodayPage />} />
          <Route path="topics" element={<TopicsPage />} />
          <Route path="topics/:key" element={<TopicPage />} />
          <Route path="practise" element={<PractisePage />} />
          <Route path="review" element={<ReviewPage />} />
          <Route path="review/:id" element={<ReviewPage />} />
          <Route path="rehearsal" element={<RehearsalPage />} />
          <Route path="study/:key" element={<StudyPage />} />
          <Route path="*" element={<Missing />} />
        </Route>
      </Routes>
    </CourseProvider>
  )
}
