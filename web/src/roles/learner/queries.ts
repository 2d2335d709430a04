import { queryOptions } from '@tanstack/react-query'
import { api, call } from '../../api/client'
import { keys } from '../../api/keys'

const within = (course: string) => ({ params: { path: { course } } })

export const todayQuery = (course: string) =>
  queryOptions({
    queryKey: keys.today(course),
    queryFn: () => call(api.GET('/api/courses/{course}/today', within(course))),
  })

export const topicsQuery = (course: string) =>
  queryOptions({
    queryKey: keys.topics(course),
    queryFn: () => call(api.GET('/api/courses/{course}/topics', within(course))),
  })

export const topicQuery = (course: string, key: string) =>
  queryOptions({
    queryKey: keys.topic(course, key),
    queryFn: () =>
      call(api.GET('/api/courses/{course}/topics/{key}', { params: { path: { course, key } } })),
  })

export const planQuery = (course: string) =>
  queryOptions({
    queryKey: keys.plan(course),
    queryFn: () => call(api.GET('/api/courses/{course}/practice-plan', within(course))),
  })

export const missesQuery = (course: string) =>
  queryOptions({
    queryKey: keys.misses(course),
    queryFn: () => call(api.GET('/api/courses/{course}/misses', within(course))),
    staleTime: 10_000,
  })

export const missQuery = (course: string, miss_id: number) =>
  queryOptions({
    queryKey: keys.miss(course, miss_id),
    queryFn: () =>
      call(
        api.GET('/api/courses/{course}/misses/{miss_id}', {
          params: { path: { course, miss_id } },
        }),
      ),
  })

export const setMissAside = (course: string, miss_id: number) =>
  call(
    api.POST('/api/courses/{course}/misses/{miss_id}/set-aside', {
      params: { path: { course, miss_id } },
    }),
  )

export const rehearsalQuery = (course: string) =>
  queryOptions({
    queryKey: keys.rehearsal(course),
    queryFn: () => call(api.GET('/api/courses/{course}/rehearsal', within(course))),
    staleTime: Number.POSITIVE_INFINITY,
  })

export const tryOut = (course: string, key: string, responses: Record<string, string>) =>
  call(
    api.POST('/api/courses/{course}/rehearsal/{key}', {
      params: { path: { course, key } },
      body: { responses },
    }),
  )
