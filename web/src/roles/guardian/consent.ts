import { queryOptions } from '@tanstack/react-query'
import { api, call } from '../../api/client'
import { keys } from '../../api/keys'

export const consentsQuery = queryOptions({
  queryKey: keys.consents,
  queryFn: () => call(api.GET('/api/consents')),
})
