import { queryOptions } from '@tanstack/react-query'
import { api, call, type Schemas } from '../../../api/client'
import { keys } from '../../../api/keys'
import { atTest, LOOK_AGAIN } from '../queries'

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

export const handInFor = (group: number, assignment: number, attempt_id: number) =>
  call(
    api.POST('/api/groups/{group_id}/tests/{assignment_id}/sitting/{attempt_id}/hand-in', {
      params: { path: { ...atTest(group, assignment).path, attempt_id } },
    }),
  )

const SITTING = '/api/groups/{group_id}/tests/{assignment_id}/sitting' as const

const everywhere = (group: number, assignment: number, together: boolean) => ({
  ...atTest(group, assignment),
  query: { together },
})

/** What whoever watches over a test does with those who sit. */
export const watchCalls = (group: number, assignment: number, together = false) => ({
  pause: (body: Schemas['PauseIn']) =>
    call(api.POST(`${SITTING}/pause`, { params: everywhere(group, assignment, together), body })),
  resume: (attempts: number[] | null) =>
    call(
      api.POST(`${SITTING}/resume`, {
        params: everywhere(group, assignment, together),
        body: { attempts },
      }),
    ),
  time: (body: Schemas['MoreTimeIn']) =>
    call(api.POST(`${SITTING}/time`, { params: everywhere(group, assignment, together), body })),
  reopen: (attempt_id: number, body: Schemas['ReopenIn']) =>
    call(
      api.POST(`${SITTING}/{attempt_id}/reopen`, {
        params: { path: { ...atTest(group, assignment).path, attempt_id } },
        body,
      }),
    ),
})

export const reopenQuery = (group: number, assignment: number, attempt_id: number) =>
  queryOptions({
    queryKey: keys.reopening(group, assignment, attempt_id),
    queryFn: () =>
      call(
        api.GET(`${SITTING}/{attempt_id}/reopen`, {
          params: { path: { ...atTest(group, assignment).path, attempt_id } },
        }),
      ),
    gcTime: 0,
  })

export const allowLearner = (group: number, assignment: number, body: Schemas['AllowanceIn']) =>
  call(
    api.POST('/api/groups/{group_id}/tests/{assignment_id}/allowances', {
      params: atTest(group, assignment),
      body,
    }),
  )
