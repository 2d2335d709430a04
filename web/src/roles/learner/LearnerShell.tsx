import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { useNavigate } from 'react-router'
import type { Course } from '../../account/course'
import { useCourseList } from '../../account/course'
import { barSelect, type Place, Shell } from '../../account/Shell'
import type { Account } from '../../account/session'
import { missesQuery } from './queries'

/** The places of a learner's bar, within a course. */
function usePlaces(course: string): Place[] {
  const misses = useQuery(missesQuery(course))
  const to = (path: string) => `/courses/${course}${path}`
  return [
    { to: to(''), label: t`Today`, end: true },
    { to: to('/topics'), label: t`Topics` },
    { to: to('/practise'), label: t`Practise` },
    {
      to: to('/review'),
      label: t`Review`,
      count: { number: misses.data?.total ?? 0, of: t`mistakes to correct` },
    },
    { to: to('/tests'), label: t`Tests` },
    { to: to('/record'), label: t`Record` },
  ]
}

const linksOf = (course: string) => [
  { label: t`Search`, to: `/courses/${course}/search` },
  { label: t`Targets and dates`, to: `/courses/${course}/aims` },
  { label: t`Plan to a date`, to: `/courses/${course}/plan` },
  { label: t`My questions to others`, to: '/threads' },
  { label: t`Try every kind of question`, to: `/courses/${course}/rehearsal` },
]

/** The course shown, and the way to another; nothing where there is one only. */
function CourseSwitch({ course, courses }: { course: string; courses: Course[] }) {
  const navigate = useNavigate()
  if (courses.length < 2) return null
  return (
    <label>
      <span className="sr-only">{t`Course`}</span>
      <select
        value={course}
        onChange={(event) => navigate(`/courses/${event.target.value}`)}
        className={barSelect}
      >
        {courses.map(({ key, title }) => (
          <option key={key} value={key}>
            {title}
          </option>
        ))}
      </select>
    </label>
  )
}

/** The learner's bar. course: the one shown, or the last one where a page belongs to none. */
export function LearnerShell({ account, course }: { account: Account; course: string | null }) {
  if (course === null)
    return <Shell account={account} as="learner" home="/courses" places={NOWHERE} />
  return <InCourse account={account} course={course} />
}

const NOWHERE: Place[] = [{ to: '/courses', label: t`Today` }]

function InCourse({ account, course }: { account: Account; course: string }) {
  const courses = useCourseList().data?.courses ?? []
  return (
    <Shell
      account={account}
      as="learner"
      home={`/courses/${course}`}
      places={usePlaces(course)}
      links={linksOf(course)}
      beside={<CourseSwitch course={course} courses={courses} />}
    />
  )
}
