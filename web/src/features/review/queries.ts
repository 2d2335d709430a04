import { queryOptions } from '@tanstack/react-query'
import { api, call } from '../../api/client'

export const reviewKeys = {
  all: ['misses'] as const,
  one: (id: number) => ['misses', id] as const,
}

export const missesQuery = queryOptions({
  queryKey: reviewKeys.all,
  queryFn: () => call(api.GET('/api/review/misses')),
  staleTime: 10_000,
})

export const missQuery = (id: number) =>
  queryOptions({
    queryKey: reviewKeys.one(id),
    queryFn: () =>
      call(api.GET('/api/review/misses/{miss_id}', { params: { path: { miss_id: id } } })),
  })
