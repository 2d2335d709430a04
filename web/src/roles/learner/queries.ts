import { queryOptions, useMutation, useQueryClient } from '@tanstack/react-query'
import { api, call, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'

const within = (course: string) => ({ params: { path: { course } } })

export const todayQuery = (course: string) =>
  queryOptions({
    queryKey: keys.today(course),
    queryFn: () => call(api.GET('/api/courses/{course}/today', within(course))),
  })

export const waitingWorkQuery = (course: string) =>
  queryOptions({
    queryKey: keys.waitingWork(course),
    queryFn: () => call(api.GET('/api/courses/{course}/work/waiting', within(course))),
  })

export const topicsQuery = (course: string) =>
  queryOptions({
    queryKey: keys.topics(course),
    queryFn: () => call(api.GET('/api/courses/{course}/topics', within(course))),
  })

export const topicQuery = (course: string, key: string) =>
  queryOptions({
    queryKey: keys.topic(course, key),
    queryFn: () =>
      call(api.GET('/api/courses/{course}/topics/{key}', { params: { path: { course, key } } })),
  })

export const planQuery = (course: string) =>
  queryOptions({
    queryKey: keys.plan(course),
    queryFn: () => call(api.GET('/api/courses/{course}/practice-plan', within(course))),
  })

export const searchQuery = (course: string, words: string) =>
  queryOptions({
    queryKey: keys.search(course, words),
    queryFn: () =>
      call(
        api.GET('/api/courses/{course}/search', {
          params: { path: { course }, query: { words } },
        }),
      ),
    placeholderData: (before) => before,
  })

export type MissOrder = Schemas['MissListOut']['order']

export const missesQuery = (course: string, order: MissOrder = 'topic') =>
  queryOptions({
    queryKey: keys.missList(course, order),
    queryFn: () =>
      call(
        api.GET('/api/courses/{course}/misses', {
          params: { path: { course }, query: { order } },
        }),
      ),
    staleTime: 10_000,
  })

export const missQuery = (course: string, miss_id: number) =>
  queryOptions({
    queryKey: keys.miss(course, miss_id),
    queryFn: () =>
      call(
        api.GET('/api/courses/{course}/misses/{miss_id}', {
          params: { path: { course, miss_id } },
        }),
      ),
  })

export const setMissAside = (course: string, miss_id: number) =>
  call(
    api.POST('/api/courses/{course}/misses/{miss_id}/set-aside', {
      params: { path: { course, miss_id } },
    }),
  )

export const rehearsalQuery = (course: string) =>
  queryOptions({
    queryKey: keys.rehearsal(course),
    queryFn: () => call(api.GET('/api/courses/{course}/rehearsal', within(course))),
    staleTime: Number.POSITIVE_INFINITY,
  })

export const tryOut = (course: string, key: string, responses: Record<string, string>) =>
  call(
    api.POST('/api/courses/{course}/rehearsal/{key}', {
      params: { path: { course, key } },
      body: { responses },
    }),
  )

export const aimsQuery = (course: string) =>
  queryOptions({
    queryKey: keys.aims(course),
    queryFn: () => call(api.GET('/api/courses/{course}/aims', within(course))),
  })

export const setAims = (course: string, body: Schemas['AimsIn']) =>
  call(api.PUT('/api/courses/{course}/aims', { ...within(course), body }))

/** The plan to a date. */
export const toDateQuery = (course: string) =>
  queryOptions({
    queryKey: keys.toDate(course),
    queryFn: () => call(api.GET('/api/courses/{course}/plan', within(course))),
  })

export const spellPlanQuery = (course: string, minutes: number) =>
  queryOptions({
    queryKey: keys.spellPlan(course, minutes),
    queryFn: () =>
      call(
        api.GET('/api/courses/{course}/spell', {
          params: { path: { course }, query: { minutes } },
        }),
      ),
  })

export const spellQuery = (course: string, spell_id: number) =>
  queryOptions({
    queryKey: keys.spell(course, spell_id),
    queryFn: () =>
      call(
        api.GET('/api/courses/{course}/spells/{spell_id}', {
          params: { path: { course, spell_id } },
        }),
      ),
  })

export const startSpell = (course: string, minutes: number) =>
  call(api.POST('/api/courses/{course}/spells', { ...within(course), body: { minutes } }))

export const goOnSpell = (course: string, spell_id: number, piece: number) =>
  call(
    api.POST('/api/courses/{course}/spells/{spell_id}/go-on', {
      params: { path: { course, spell_id } },
      body: { piece },
    }),
  )

export const endSpell = (course: string, spell_id: number) =>
  call(
    api.POST('/api/courses/{course}/spells/{spell_id}/end', {
      params: { path: { course, spell_id } },
    }),
  )

/** Putting a step off, turning it down, bringing it back: Today is told anew. */
export function useStepChoice(course: string) {
  const cache = useQueryClient()
  const onSuccess = (today: Schemas['TodayOut']) => cache.setQueryData(keys.today(course), today)
  const aside = useMutation({
    mutationFn: (body: Schemas['PutAsideIn']) =>
      call(api.POST('/api/courses/{course}/steps/put-aside', { ...within(course), body })),
    onSuccess,
  })
  const back = useMutation({
    mutationFn: (step: string) =>
      call(
        api.POST('/api/courses/{course}/steps/bring-back', { ...within(course), body: { step } }),
      ),
    onSuccess,
  })
  return { aside, back }
}

export const takeUpMiss = (course: string, miss_id: number) =>
  call(
    api.POST('/api/courses/{course}/misses/{miss_id}/take-up', {
      params: { path: { course, miss_id } },
    }),
  )

/** What to study for the misses. */
export const revisionQuery = (course: string) =>
  queryOptions({
    queryKey: keys.revision(course),
    queryFn: () => call(api.GET('/api/courses/{course}/revision', within(course))),
  })

export const noteStudied = (course: string, body: Schemas['StudiedIn']) =>
  call(api.POST('/api/courses/{course}/revision/studied', { ...within(course), body }))

/** What a quiz of one's own would ask. */
export const quizQuery = (course: string, topics: string[], questions: number) =>
  queryOptions({
    queryKey: keys.quiz(course, { topics, questions }),
    queryFn: () =>
      call(
        api.GET('/api/courses/{course}/quiz', {
          params: { path: { course }, query: { topics: topics.join(','), questions } },
        }),
      ),
    enabled: topics.length > 0,
  })
