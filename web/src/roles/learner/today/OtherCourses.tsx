import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { type Course, useCourses } from '../../../account/course'
import { TextLink } from '../../../ui/TextLink'
import { todayQuery } from '../queries'

/** What comes first in the other courses. */
export function OtherCourses() {
  const { course, courses } = useCourses()
  const others = courses.filter((one) => one.key !== course.key)
  if (others.length === 0) return null
  return (
    <section className="mt-8">
      <h2 className="text-lg">{t`Your other courses`}</h2>
      <ul>
        {others.map((one) => (
          <OtherCourse key={one.key} course={one} />
        ))}
      </ul>
    </section>
  )
}

function OtherCourse({ course }: { course: Course }) {
  const step = useQuery(todayQuery(course.key)).data?.steps[0]
  return (
    <li className="flex flex-wrap items-baseline gap-x-4 py-1.5">
      <TextLink to={`/courses/${course.key}`} className="font-semibold">
        {course.title}
      </TextLink>
      <span className="text-ink-2">
        {step ? t`${step.title}, ${step.minutes} min` : t`nothing to do`}
      </span>
    </li>
  )
}
