import { t } from '@lingui/core/macro'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useNavigate } from 'react-router'
import { useCourseList } from '../../account/course'
import { api, call } from '../../api/client'
import { keys } from '../../api/keys'
import { Button } from '../../ui/Button'
import { Problem } from '../../ui/Field'

/** Courses that anybody may begin, without a group. */
export function OpenCourses() {
  const open = useCourseList().data?.open ?? []
  const cache = useQueryClient()
  const navigate = useNavigate()
  const begin = useMutation({
    mutationFn: (course: string) =>
      call(api.POST('/api/courses/{course}/begin', { params: { path: { course } } })),
    onSuccess: async (course) => {
      await cache.invalidateQueries({ queryKey: keys.courses })
      await cache.invalidateQueries({ queryKey: keys.session })
      navigate(`/courses/${course.key}`)
    },
  })
  if (open.length === 0) return null
  return (
    <section>
      <h2 className="text-xl">{t`Open courses`}</h2>
      <ul className="mt-1">
        {open.map((course) => (
          <li key={course.key} className="flex flex-wrap items-center gap-4 py-1">
            <span className="font-semibold">{course.title}</span>
            <Button
              aria-label={t`Start ${course.title}`}
              disabled={begin.isPending}
              onClick={() => begin.mutate(course.key)}
            >{t`Start`}</Button>
          </li>
        ))}
      </ul>
      <Problem error={begin.error} />
    </section>
  )
}
