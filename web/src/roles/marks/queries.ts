import { queryOptions } from '@tanstack/react-query'
import { api, call } from '../../api/client'
import { keys } from '../../api/keys'

export const ownMarksQuery = (course: string) =>
  queryOptions({
    queryKey: keys.ownMarks(course),
    queryFn: () => call(api.GET('/api/courses/{course}/marks', { params: { path: { course } } })),
  })

export const learnerMarksQuery = (enrolment_id: number) =>
  queryOptions({
    queryKey: keys.learnerMarks(enrolment_id),
    queryFn: () =>
      call(api.GET('/api/learners/{enrolment_id}/marks', { params: { path: { enrolment_id } } })),
  })
