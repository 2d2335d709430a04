import { queryOptions } from '@tanstack/react-query'
import { api, call } from '../../api/client'

export const studyQuery = (key: string) =>
  queryOptions({
    queryKey: ['study', key],
    queryFn: () => call(api.GET('/api/study/{key}', { params: { path: { key } } })),
    staleTime: Number.POSITIVE_INFINITY,
  })

/** Notes that a section was opened: it is help for the questions it explains. */
export const noteOpened = (key: string, section: string) =>
  call(api.POST('/api/study/{key}/{section}/opened', { params: { path: { key, section } } }))
