import { queryOptions, useMutation, useQueryClient } from '@tanstack/react-query'
import { useNavigate } from 'react-router'
import { type Answer, api, call, type Purpose, type RunState } from '../../api/client'

export const runKeys = { one: (purpose: Purpose, id: number) => ['run', purpose, id] as const }

/** A run with what happened last: the feedback shown, and the question that waits behind it. */
export interface Sheet extends RunState {
  feedback?: Answer['feedback']
  next?: Answer['next']
}

const path = (run_id: number) => ({ params: { path: { run_id } } })

export const runQuery = (purpose: Purpose, id: number) =>
  queryOptions<Sheet>({
    queryKey: runKeys.one(purpose, id),
    queryFn: () => {
      if (purpose === 'diagnostic') return call(api.GET('/api/diagnostic/runs/{run_id}', path(id)))
      if (purpose === 'practice') return call(api.GET('/api/practice/runs/{run_id}', path(id)))
      return call(api.GET('/api/review/runs/{run_id}', path(id)))
    },
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 60_000,
  })

/** What a learner can begin. */
export type Start =
  | { purpose: 'diagnostic'; subject: string | null }
  | { purpose: 'practice'; topic: string }
  | { purpose: 'missed'; miss: number }

function begin(start: Start) {
  if (start.purpose === 'diagnostic')
    return call(api.POST('/api/diagnostic/runs', { body: { subject: start.subject } }))
  if (start.purpose === 'practice')
    return call(api.POST('/api/practice/runs', { body: { topic: start.topic } }))
  return call(
    api.POST('/api/review/misses/{miss_id}/fresh', { params: { path: { miss_id: start.miss } } }),
  )
}

/** Begins a run and goes there. */
export function useStart() {
  const cache = useQueryClient()
  const navigate = useNavigate()
  return useMutation({
    mutationFn: begin,
    onSuccess: (state: RunState) => {
      const { id, purpose } = state.run
      cache.setQueryData(runKeys.one(purpose, id), state)
      navigate(`/run/${purpose}/${id}`)
    },
  })
}

const question = (question_id: number) => ({ params: { path: { question_id } } })

export type Sent = Parameters<typeof sendAnswer>[2]

/** Posts an answer to the endpoint of its purpose. */
export function sendAnswer(
  purpose: Purpose,
  id: number,
  body: {
    replay_key: string
    responses: Record<string, string>
    confidence: 50 | 70 | 90 | 100 | null
  },
): Promise<Answer> {
  const options = { ...question(id), body }
  if (purpose === 'diagnostic')
    return call(api.POST('/api/diagnostic/questions/{question_id}/answer', options))
  if (purpose === 'practice')
    return call(api.POST('/api/practice/questions/{question_id}/answer', options))
  return call(api.POST('/api/review/questions/{question_id}/answer', options))
}

export const sendNotTaught = (id: number, replay_key: string) =>
  call(
    api.POST('/api/diagnostic/questions/{question_id}/not-taught', {
      ...question(id),
      body: { replay_key },
    }),
  )

export const takeBack = (id: number, replay_key: string) =>
  call(
    api.POST('/api/diagnostic/questions/{question_id}/take-back', {
      ...question(id),
      body: { replay_key },
    }),
  )

export const swapQuestion = (id: number) =>
  call(api.POST('/api/diagnostic/questions/{question_id}/swap', question(id)))

export const openHint = (id: number) =>
  call(api.POST('/api/practice/questions/{question_id}/hint', question(id)))

export const showWorking = (id: number) =>
  call(api.POST('/api/practice/questions/{question_id}/working', question(id)))

export const freshVersion = (id: number) =>
  call(api.POST('/api/practice/questions/{question_id}/fresh', question(id)))

export function goOn(purpose: Purpose, id: number): Promise<RunState> {
  if (purpose === 'diagnostic')
    return call(api.POST('/api/diagnostic/runs/{run_id}/go-on', path(id)))
  return call(api.POST('/api/practice/runs/{run_id}/go-on', path(id)))
}

export const noteShown = (id: number) =>
  call(api.POST('/api/questions/{question_id}/shown', question(id)))

export const whyQuery = (id: number) =>
  queryOptions({
    queryKey: ['why', id],
    queryFn: () => call(api.GET('/api/questions/{question_id}/why', question(id))),
    staleTime: Number.POSITIVE_INFINITY,
  })

export function finishRun(purpose: Purpose, id: number): Promise<RunState> {
  if (purpose === 'diagnostic')
    return call(api.POST('/api/diagnostic/runs/{run_id}/finish', path(id)))
  return call(api.POST('/api/practice/runs/{run_id}/finish', path(id)))
}
