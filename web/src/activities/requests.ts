import { queryOptions, useMutation, useQueryClient } from '@tanstack/react-query'
import { useNavigate } from 'react-router'
import { useCourse, useTo } from '../account/course'
import { type Answer, api, type Body, call, type RunState, type Schemas } from '../api/client'
import { keys } from '../api/keys'

/** A run with what happened last: the feedback shown, and the question that waits behind it. */
export interface Sheet extends RunState {
  feedback?: Answer['feedback']
  next?: Answer['next']
}

const run = (course: string, run_id: number) => ({ params: { path: { course, run_id } } })
const question = (course: string, question_id: number) => ({
  params: { path: { course, question_id } },
})
const RUN = '/api/courses/{course}/runs/{run_id}' as const
const QUESTION = '/api/courses/{course}/questions/{question_id}' as const

export const runQuery = (course: string, id: number) =>
  queryOptions<Sheet>({
    queryKey: keys.run(course, id),
    queryFn: () => call(api.GET(RUN, run(course, id))),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 60_000,
  })

/** What a learner can begin. */
export type Start = Body<'/api/courses/{course}/runs'>

/** Begins a run and goes there. */
export function useStart() {
  const cache = useQueryClient()
  const navigate = useNavigate()
  const course = useCourse()
  const to = useTo()
  return useMutation({
    mutationFn: (body: Start) =>
      call(api.POST('/api/courses/{course}/runs', { params: { path: { course } }, body })),
    onSuccess: (state: RunState) => {
      cache.setQueryData(keys.run(course, state.run.id), state)
      navigate(to(`/run/${state.run.id}`))
    },
  })
}

/** Every request of a run's page, for one course. */
export const requestsOf = (course: string) => ({
  answer: (id: number, body: Schemas['AnswerIn']) =>
    call(api.POST(`${QUESTION}/answer`, { ...question(course, id), body })),
  readBack: (id: number, responses: Record<string, string>) =>
    call(api.POST(`${QUESTION}/read-back`, { ...question(course, id), body: { responses } })),
  undo: (id: number, replay_key: string) =>
    call(api.POST(`${QUESTION}/undo`, { ...question(course, id), body: { replay_key } })),
  swap: (id: number) => call(api.POST(`${QUESTION}/swap`, question(course, id))),
  hint: (id: number) => call(api.POST(`${QUESTION}/hint`, question(course, id))),
  working: (id: number) => call(api.POST(`${QUESTION}/working`, question(course, id))),
  fresh: (id: number) => call(api.POST(`${QUESTION}/fresh`, question(course, id))),
  shown: (id: number) => call(api.POST(`${QUESTION}/shown`, question(course, id))),
  goOn: (id: number) => call(api.POST(`${RUN}/go-on`, run(course, id))),
  finish: (id: number) => call(api.POST(`${RUN}/finish`, run(course, id))),
})

/** Whom one may ask for help. */
export const classmatesQuery = (course: string) =>
  queryOptions({
    queryKey: keys.classmates(course),
    queryFn: () =>
      call(api.GET('/api/courses/{course}/classmates', { params: { path: { course } } })),
  })

export const whyQuery = (course: string, id: number) =>
  queryOptions({
    queryKey: keys.why(course, id),
    queryFn: () => call(api.GET(`${QUESTION}/why`, question(course, id))),
    staleTime: Number.POSITIVE_INFINITY,
  })
