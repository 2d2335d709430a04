import { queryOptions } from '@tanstack/react-query'
import { api, call } from '../../api/client'
import { keys } from '../../api/keys'

export const wardsQuery = queryOptions({
  queryKey: keys.wards,
  queryFn: () => call(api.GET('/api/wards')),
})

export const learnerQuery = (enrolment_id: number) =>
  queryOptions({
    queryKey: keys.learner(enrolment_id),
    queryFn: () =>
      call(api.GET('/api/learners/{enrolment_id}', { params: { path: { enrolment_id } } })),
  })

export const learnerTopicQuery = (enrolment_id: number, key: string) =>
  queryOptions({
    queryKey: keys.learnerTopic(enrolment_id, key),
    queryFn: () =>
      call(
        api.GET('/api/learners/{enrolment_id}/topics/{key}', {
          params: { path: { enrolment_id, key } },
        }),
      ),
  })

export const talksQuery = (enrolment_id: number) =>
  queryOptions({
    queryKey: keys.talks(enrolment_id),
    queryFn: () =>
      call(api.GET('/api/learners/{enrolment_id}/talks', { params: { path: { enrolment_id } } })),
    refetchInterval: 30_000,
  })
