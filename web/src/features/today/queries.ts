import { queryOptions } from '@tanstack/react-query'
import { api, call } from '../../api/client'

export const todayQuery = queryOptions({
  queryKey: ['today'],
  queryFn: () => call(api.GET('/api/today')),
})
