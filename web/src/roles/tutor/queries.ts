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

export const missedQuery = (id: number) =>
  queryOptions({
    queryKey: keys.missed(id),
    queryFn: () => call(api.GET('/api/groups/{group_id}/missed', of(id))),
    staleTime: 60_000,
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

export const groupTestsQuery = (id: number) =>
  queryOptions({
    queryKey: keys.groupTests(id),
    queryFn: () => call(api.GET('/api/groups/{group_id}/tests', of(id))),
  })

export type GiveTest = Schemas['GiveTestIn']

/** What giving a test would be; nothing is stored by asking. */
export const giveCheckQuery = (id: number, body: GiveTest | null) =>
  queryOptions({
    queryKey: keys.giveCheck(id, body ?? {}),
    queryFn: () =>
      call(api.POST('/api/groups/{group_id}/tests/check', { ...of(id), body: body as GiveTest })),
    enabled: body !== null,
    placeholderData: keepPreviousData,
  })

export const giveTest = (id: number, body: GiveTest) =>
  call(api.POST('/api/groups/{group_id}/tests', { ...of(id), body }))

export const givenQuery = (group: number, assignment: number) =>
  queryOptions({
    queryKey: keys.given(group, assignment),
    queryFn: () =>
      call(
        api.GET('/api/groups/{group_id}/tests/{assignment_id}', {
          params: atTest(group, assignment),
        }),
      ),
    gcTime: 0,
  })

export const changeGiven = (
  group: number,
  assignment: number,
  body: Schemas['ChangeGivenIn'],
  together: boolean,
) =>
  call(
    api.PUT('/api/groups/{group_id}/tests/{assignment_id}', {
      params: { ...atTest(group, assignment), query: { together } },
      body,
    }),
  )

export const withdrawTest = (group: number, assignment: number) =>
  call(
    api.DELETE('/api/groups/{group_id}/tests/{assignment_id}', {
      params: atTest(group, assignment),
    }),
  )

export type NewTask = Schemas['NewTaskIn']
export type GroupTask = Schemas['GroupTaskOut']

export const groupTasksQuery = (id: number) =>
  queryOptions({
    queryKey: keys.groupTasks(id),
    queryFn: () => call(api.GET('/api/groups/{group_id}/tasks', of(id))),
  })

/** What setting work would be; nothing is stored by asking. */
export const taskCheckQuery = (id: number, body: NewTask | null) =>
  queryOptions({
    queryKey: keys.giveCheck(id, body ?? {}),
    queryFn: () =>
      call(api.POST('/api/groups/{group_id}/tasks/check', { ...of(id), body: withoutAlso(body) })),
    enabled: body !== null,
    placeholderData: keepPreviousData,
  })

function withoutAlso(body: NewTask | null): Schemas['TaskIn'] {
  const { also: _, ...rest } = body as NewTask
  return rest
}

const atTask = (group_id: number, task_id: number) => ({
  params: { path: { group_id, task_id } },
})

export const setTask = (id: number, body: NewTask) =>
  call(api.POST('/api/groups/{group_id}/tasks', { ...of(id), body }))

export const changeTask = (
  group_id: number,
  task_id: number,
  body: Schemas['ChangeTaskIn'],
  together: boolean,
) =>
  call(
    api.PUT('/api/groups/{group_id}/tasks/{task_id}', {
      params: { path: { group_id, task_id }, query: { together } },
      body,
    }),
  )

export const withdrawTask = (id: number, task: number) =>
  call(api.DELETE('/api/groups/{group_id}/tasks/{task_id}', atTask(id, task)))

export const restoreTest = (group: number, assignment: number) =>
  call(
    api.POST('/api/groups/{group_id}/tests/{assignment_id}/restore', {
      params: atTest(group, assignment),
    }),
  )

export const restoreTask = (id: number, task: number) =>
  call(api.POST('/api/groups/{group_id}/tasks/{task_id}/restore', atTask(id, task)))

export const LOOK_AGAIN = 5_000

export const atTest = (group_id: number, assignment_id: number) => ({
  path: { group_id, assignment_id },
})

export const signalsQuery = (group_id: number) =>
  queryOptions({
    queryKey: keys.signals(group_id),
    queryFn: () =>
      call(api.GET('/api/groups/{group_id}/signals', { params: { path: { group_id } } })),
    staleTime: 60_000,
  })

export const lookAt = (group_id: number, body: Schemas['LookIn']) =>
  call(api.POST('/api/groups/{group_id}/signals', { params: { path: { group_id } }, body }))

export const groupCalendarQuery = (group_id: number) =>
  queryOptions({
    queryKey: keys.groupCalendar(group_id),
    queryFn: () =>
      call(api.GET('/api/groups/{group_id}/calendar', { params: { path: { group_id } } })),
  })

export const waitingTalksQuery = queryOptions({
  queryKey: keys.waitingTalks,
  queryFn: () => call(api.GET('/api/talks')),
  refetchInterval: 60_000,
})

export const handInsQuery = (group: number, task: number) =>
  queryOptions({
    queryKey: [...keys.groupTasks(group), task, 'hand-ins'],
    queryFn: () =>
      call(api.GET('/api/groups/{group_id}/tasks/{task_id}/hand-ins', atTask(group, task))),
  })

export const markHandIn = (
  group_id: number,
  task_id: number,
  enrolment_id: number,
  body: Schemas['HandInMarkIn'],
) =>
  call(
    api.POST('/api/groups/{group_id}/tasks/{task_id}/hand-ins/{enrolment_id}', {
      params: { path: { group_id, task_id, enrolment_id } },
      body,
    }),
  )
