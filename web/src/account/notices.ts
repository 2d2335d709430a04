import { queryOptions } from '@tanstack/react-query'
import { api, call } from '../api/client'
import { keys } from '../api/keys'

/** Messages of the account, the latest first, with how many are unread. */
export const noticesQuery = queryOptions({
  queryKey: keys.notices,
  queryFn: () => call(api.GET('/api/notices')),
  staleTime: 20_000,
  refetchInterval: 60_000,
})
