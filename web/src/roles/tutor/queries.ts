import { keepPreviousData, queryOptions } from '@tanstack/react-query'
import { api, call, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'

const of = (group_id: number) => ({ params: { path: { group_id } } })

export const groupsQuery = queryOptions({
  queryKey: keys.groups,
  queryFn: () => call(api.GET('/api/groups')),
  staleTime: 20_000,
})

export const groupQuery = (id: number) =>
  queryOptions({
    queryKey: keys.group(id),
    queryFn: () => call(api.GET('/api/groups/{group_id}', of(id))),
  })

export const groupSettingsQuery = (id: number) =>
  queryOptions({
    queryKey: keys.groupSettings(id),
    queryFn: () => call(api.GET('/api/groups/{group_id}/settings', of(id))),
  })

export const setGroup = (id: number, body: Schemas['GroupSettingsIn']) =>
  call(api.PUT('/api/groups/{group_id}/settings', { ...of(id), body }))

export const makeCode = (id: number) => call(api.POST('/api/groups/{group_id}/code', of(id)))

export const endCode = (id: number) => call(api.DELETE('/api/groups/{group_id}/code', of(id)))

export type NewTest = Schemas['SetTestIn']

export const groupTestsQuery = (id: number) =>
  queryOptions({
    queryKey: keys.groupTests(id),
    queryFn: () => call(api.GET('/api/groups/{group_id}/tests', of(id))),
  })

export const bankQuery = (id: number, filter: { topic?: string; words?: string }) =>
  queryOptions({
    queryKey: keys.bank(id, filter),
    queryFn: () =>
      call(
        api.GET('/api/groups/{group_id}/bank', {
          params: { path: { group_id: id }, query: filter },
        }),
      ),
    placeholderData: keepPreviousData,
    staleTime: 60_000,
  })

export const familyQuery = (id: number, family: string, seed: number) =>
  queryOptions({
    queryKey: keys.family(id, family, seed),
    queryFn: () =>
      call(
        api.GET('/api/groups/{group_id}/bank/{family}', {
          params: { path: { group_id: id, family }, query: { seed } },
        }),
      ),
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
  })

/** What a test would be, and what of it cannot be; nothing is stored by asking. */
export const testCheckQuery = (id: number, body: NewTest) =>
  queryOptions({
    queryKey: keys.testCheck(id, body),
    queryFn: () => call(api.POST('/api/groups/{group_id}/tests/check', { ...of(id), body })),
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
  })

export const setTest = (id: number, body: NewTest) =>
  call(api.POST('/api/groups/{group_id}/tests', { ...of(id), body }))

const LOOK_AGAIN = 5_000

const atTest = (group_id: number, assignment_id: number) => ({ path: { group_id, assignment_id } })

export const sittingQuery = (group: number, assignment: number) =>
  queryOptions({
    queryKey: keys.sitting(group, assignment),
    queryFn: () =>
      call(
        api.GET('/api/groups/{group_id}/tests/{assignment_id}/sitting', {
          params: atTest(group, assignment),
        }),
      ),
    refetchInterval: LOOK_AGAIN,
  })

export const tickShown = (group: number, assignment: number, attempt_id: number, shown: boolean) =>
  call(
    api.POST('/api/groups/{group_id}/tests/{assignment_id}/sitting/{attempt_id}/shown', {
      params: { path: { ...atTest(group, assignment).path, attempt_id } },
      body: { shown },
    }),
  )

export const closePages = (group: number, assignment: number, attempt_id: number) =>
  call(
    api.POST('/api/groups/{group_id}/tests/{assignment_id}/sitting/{attempt_id}/close-pages', {
      params: { path: { ...atTest(group, assignment).path, attempt_id } },
    }),
  )

export const allowLearner = (group: number, assignment: number, body: Schemas['AllowanceIn']) =>
  call(
    api.POST('/api/groups/{group_id}/tests/{assignment_id}/allowances', {
      params: atTest(group, assignment),
      body,
    }),
  )
