import { queryOptions } from '@tanstack/react-query'
import { api, call } from '../api/client'
import { keys } from '../api/keys'

export const studyQuery = (course: string, key: string) =>
  queryOptions({
    queryKey: keys.study(course, key),
    queryFn: () =>
      call(api.GET('/api/courses/{course}/study/{key}', { params: { path: { course, key } } })),
    staleTime: Number.POSITIVE_INFINITY,
  })

/** Notes that a section was opened: it is help for the questions it explains. */
export const noteOpened = (course: string, key: string, section: string) =>
  call(
    api.POST('/api/courses/{course}/study/{key}/{section}/opened', {
      params: { path: { course, key, section } },
    }),
  )
