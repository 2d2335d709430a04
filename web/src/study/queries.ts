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

/** A section's text. Asking for it opens it: that is kept, as help for the questions it explains,
 * so it is asked for anew whenever it is opened. */
export const openedQuery = (course: string, key: string, section: string) =>
  queryOptions({
    queryKey: keys.section(course, key, section),
    queryFn: () =>
      call(
        api.POST('/api/courses/{course}/study/{key}/{section}/opened', {
          params: { path: { course, key, section } },
        }),
      ),
    gcTime: 0,
    staleTime: Number.POSITIVE_INFINITY,
  })
