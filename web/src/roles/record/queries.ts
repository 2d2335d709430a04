import { queryOptions } from '@tanstack/react-query'
import { api, call, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'

/** Whose record: the key of a course for one's own, or the number of a learner's enrolment. */
export type Whose = string | number

export interface TriesFilter {
  topic?: string
  purpose?: Schemas['TryLineOut']['purpose']
  result?: Schemas['TryLineOut']['result']
  words?: string
  older?: number
}

const of = (enrolment_id: number) => ({ path: { enrolment_id } })
const own = (course: string) => ({ path: { course } })

export const recordQuery = (whose: Whose) =>
  queryOptions({
    queryKey: keys.record(whose),
    queryFn: () =>
      typeof whose === 'string'
        ? call(api.GET('/api/courses/{course}/record', { params: own(whose) }))
        : call(api.GET('/api/learners/{enrolment_id}/record', { params: of(whose) })),
  })

export const triesQuery = (whose: Whose, query: TriesFilter) =>
  queryOptions({
    queryKey: keys.tries(whose, query),
    queryFn: () =>
      typeof whose === 'string'
        ? call(api.GET('/api/courses/{course}/record/tries', { params: { ...own(whose), query } }))
        : call(
            api.GET('/api/learners/{enrolment_id}/record/tries', {
              params: { ...of(whose), query },
            }),
          ),
    placeholderData: (before) => before,
  })

export const tryQuery = (whose: Whose, try_id: number) =>
  queryOptions({
    queryKey: keys.try(whose, try_id),
    queryFn: () =>
      typeof whose === 'string'
        ? call(
            api.GET('/api/courses/{course}/record/tries/{try_id}', {
              params: { path: { course: whose, try_id } },
            }),
          )
        : call(
            api.GET('/api/learners/{enrolment_id}/record/tries/{try_id}', {
              params: { path: { enrolment_id: whose, try_id } },
            }),
          ),
  })
