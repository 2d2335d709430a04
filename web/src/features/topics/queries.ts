import { queryOptions } from '@tanstack/react-query'
import { api, call } from '../../api/client'

export const topicsQuery = queryOptions({
  queryKey: ['topics'],
  queryFn: () => call(api.GET('/api/topics')),
})

export const topicQuery = (key: string) =>
  queryOptions({
    queryKey: ['topic', key],
    queryFn: () => call(api.GET('/api/topics/{key}', { params: { path: { key } } })),
  })
