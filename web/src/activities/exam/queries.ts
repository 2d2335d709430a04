import { queryOptions } from '@tanstack/react-query'
import { api, call, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'

export type Attempt = Schemas['AttemptOut']
export type Place = Attempt['places'][number]
export type SoFar = Schemas['SoFarData']
export type Clock = Schemas['ClockOut']

const at = (course: string, attempt_id: number) => ({ params: { path: { course, attempt_id } } })

export const testsQuery = (course: string) =>
  queryOptions({
    queryKey: keys.tests(course),
    queryFn: () => call(api.GET('/api/courses/{course}/tests', { params: { path: { course } } })),
  })

export const tasksQuery = (course: string) =>
  queryOptions({
    queryKey: keys.tasks(course),
    queryFn: () => call(api.GET('/api/courses/{course}/work', { params: { path: { course } } })),
  })

export const taskQuery = (course: string, task_id: number) =>
  queryOptions({
    queryKey: keys.task(course, task_id),
    queryFn: () =>
      call(
        api.GET('/api/courses/{course}/work/{task_id}', { params: { path: { course, task_id } } }),
      ),
  })

export const testQuery = (course: string, ref: string) =>
  queryOptions({
    queryKey: keys.test(course, ref),
    queryFn: () =>
      call(api.GET('/api/courses/{course}/tests/{ref}', { params: { path: { course, ref } } })),
  })

export const startAttempt = (course: string, ref: string) =>
  call(api.POST('/api/courses/{course}/tests/{ref}/start', { params: { path: { course, ref } } }))

/** Loaded anew whenever it is opened: what it holds is kept by the page that has it. */
export const attemptQuery = (course: string, id: number) =>
  queryOptions({
    queryKey: keys.attempt(course, id),
    queryFn: () => call(api.GET('/api/courses/{course}/attempts/{attempt_id}', at(course, id))),
    gcTime: 0,
    staleTime: Number.POSITIVE_INFINITY,
    refetchOnWindowFocus: false,
  })

export const receiptQuery = (course: string, id: number) =>
  queryOptions({
    queryKey: keys.receipt(course, id),
    queryFn: () =>
      call(api.GET('/api/courses/{course}/attempts/{attempt_id}/receipt', at(course, id))),
  })

export const resultsQuery = (course: string, id: number) =>
  queryOptions({
    queryKey: keys.results(course, id),
    queryFn: () =>
      call(api.GET('/api/courses/{course}/attempts/{attempt_id}/results', at(course, id))),
  })

export const resultQuery = (course: string, attempt_id: number, number: number) =>
  queryOptions({
    queryKey: keys.result(course, attempt_id, number),
    queryFn: () =>
      call(
        api.GET('/api/courses/{course}/attempts/{attempt_id}/results/{number}', {
          params: { path: { course, attempt_id, number } },
        }),
      ),
  })

/** What an attempt asks of the server while it goes on. */
export const attemptCalls = (course: string, id: number) => ({
  soFar: () => call(api.GET('/api/courses/{course}/attempts/{attempt_id}/so-far', at(course, id))),
  enter: () => call(api.POST('/api/courses/{course}/attempts/{attempt_id}/enter', at(course, id))),
  sign: (interval: number) =>
    call(
      api.POST('/api/courses/{course}/attempts/{attempt_id}/sign', {
        ...at(course, id),
        body: { interval },
      }),
    ),
  leave: (interval: number) =>
    call(
      api.POST('/api/courses/{course}/attempts/{attempt_id}/leave', {
        ...at(course, id),
        body: { interval },
      }),
    ),
  moveOn: ({ section, position }: Schemas['MoveOnIn']) =>
    call(
      api.POST('/api/courses/{course}/attempts/{attempt_id}/move-on', {
        ...at(course, id),
        body: { section, position },
      }),
    ),
  handIn: (interval: number) =>
    call(
      api.POST('/api/courses/{course}/attempts/{attempt_id}/hand-in', {
        ...at(course, id),
        body: { interval },
      }),
    ),
  save: (number: number, body: Schemas['SaveIn']) =>
    call(
      api.PUT('/api/courses/{course}/attempts/{attempt_id}/answers/{number}', {
        params: { path: { course, attempt_id: id, number } },
        body,
      }),
    ),
})

export type AttemptCalls = ReturnType<typeof attemptCalls>
