import { queryOptions } from '@tanstack/react-query'
import { api, type Body, call, type Schemas } from '../../../api/client'
import { keys } from '../keys'

export type Trial = Schemas['TrialOut']
export type Trials = Schemas['TrialsOut']

const TRIALS = '/api/courses/{course}/authoring/trials' as const
const of = (course: string) => ({ params: { path: { course } } })
const one = (course: string, trial_id: number) => ({ params: { path: { course, trial_id } } })

/** What a trial is to be about: a question, or a study section. */
export interface About {
  family?: string
  topic?: string
  section?: string
}

export const trialsQuery = (course: string) =>
  queryOptions({
    queryKey: keys.trials(course),
    queryFn: () => call(api.GET(TRIALS, of(course))),
  })

export const textsQuery = (course: string, about: About) =>
  queryOptions({
    queryKey: keys.trialTexts(course, about),
    queryFn: () => call(api.GET(`${TRIALS}/texts`, { params: { path: { course }, query: about } })),
    gcTime: 0,
  })

export const startTrial = (course: string, body: Body<typeof TRIALS>) =>
  call(api.POST(TRIALS, { ...of(course), body }))

export const endTrial = (course: string, id: number) =>
  call(api.POST(`${TRIALS}/{trial_id}/end`, one(course, id)))

export const adoptText = (course: string, id: number) =>
  call(api.POST(`${TRIALS}/{trial_id}/adopt`, one(course, id)))
