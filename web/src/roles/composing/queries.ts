import { keepPreviousData, queryOptions } from '@tanstack/react-query'
import { api, call, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'

export type NewTest = Schemas['ComposedIn']

const of = (course: string) => ({ params: { path: { course } } })
const at = (course: string, test_id: number) => ({ params: { path: { course, test_id } } })
const TEST = '/api/courses/{course}/composed/{test_id}' as const

export const composingQuery = queryOptions({
  queryKey: keys.composing,
  queryFn: () => call(api.GET('/api/composing')),
  staleTime: 60_000,
})

export const composedQuery = (course: string) =>
  queryOptions({
    queryKey: keys.composed(course),
    queryFn: () => call(api.GET('/api/courses/{course}/composed', of(course))),
  })

/** A test as it was composed; read anew each time, since it is about to be changed. */
export const composedOneQuery = (course: string, test: number) =>
  queryOptions({
    queryKey: keys.composedOne(course, test),
    queryFn: () => call(api.GET(TEST, at(course, test))),
    gcTime: 0,
  })

export const bankQuery = (course: string, filter: { topic?: string; words?: string }) =>
  queryOptions({
    queryKey: keys.bank(course, filter),
    queryFn: () =>
      call(
        api.GET('/api/courses/{course}/bank', {
          params: { path: { course }, query: filter },
        }),
      ),
    placeholderData: keepPreviousData,
    staleTime: 60_000,
  })

export const familyQuery = (course: string, family: string, seed: number) =>
  queryOptions({
    queryKey: keys.family(course, family, seed),
    queryFn: () =>
      call(
        api.GET('/api/courses/{course}/bank/{family}', {
          params: { path: { course, family }, query: { seed } },
        }),
      ),
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
  })

/** What a test would bring in a group; nothing is stored by asking. */
export const forecastQuery = (group: number, body: NewTest, enabled: boolean) =>
  queryOptions({
    queryKey: keys.forecast(group, body),
    queryFn: () =>
      call(
        api.POST('/api/groups/{group_id}/tests/forecast', {
          params: { path: { group_id: group } },
          body,
        }),
      ),
    enabled,
    placeholderData: keepPreviousData,
  })

/** What a test would be, and what of it cannot be; nothing is stored by asking. */
export const testCheckQuery = (course: string, body: NewTest) =>
  queryOptions({
    queryKey: keys.testCheck(course, body),
    queryFn: () => call(api.POST('/api/courses/{course}/composed/check', { ...of(course), body })),
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
  })

/** Keeps a test: a new one, or what an own one is to be now. */
export const keepTest = (course: string, changes: number | null, body: NewTest, version: string) =>
  changes === null
    ? call(api.POST('/api/courses/{course}/composed', { ...of(course), body }))
    : call(api.PUT(TEST, { ...at(course, changes), body: { ...body, version } }))

export const removeTest = (course: string, test: number) => call(api.DELETE(TEST, at(course, test)))
