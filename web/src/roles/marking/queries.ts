import { queryOptions } from '@tanstack/react-query'
import { api, call, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'

export type Queue = Schemas['MarkingQueueOut']
export type Answer = Schemas['AnswerToMarkOut']
export type Question = Schemas['QuestionToMarkOut']
export type Part = Schemas['PartToMarkOut']

const at = (group_id: number, assignment_id: number) => ({ path: { group_id, assignment_id } })
const MARKING = '/api/groups/{group_id}/tests/{assignment_id}/marking' as const

export const waitingMarksQuery = queryOptions({
  queryKey: keys.marking,
  queryFn: () => call(api.GET('/api/marking')),
  staleTime: 30_000,
})

/** What was handed in with set work and waits for marks. */
export const waitingHandInsQuery = queryOptions({
  queryKey: [...keys.marking, 'hand-ins'],
  queryFn: () => call(api.GET('/api/hand-ins')),
  staleTime: 30_000,
})

export const markingQuery = (group: number, assignment: number) =>
  queryOptions({
    queryKey: keys.markingOf(group, assignment),
    queryFn: () => call(api.GET(MARKING, { params: at(group, assignment) })),
  })

export const questionQuery = (group: number, assignment: number, family: string, hidden: boolean) =>
  queryOptions({
    queryKey: keys.markingQuestion(group, assignment, family, hidden),
    queryFn: () =>
      call(
        api.GET(`${MARKING}/questions/{family}`, {
          params: { path: { ...at(group, assignment).path, family }, query: { hidden } },
        }),
      ),
  })

export const markPart = (
  group: number,
  assignment: number,
  answer_id: number,
  part: string,
  body: Schemas['MarkIn'],
) =>
  call(
    api.POST(`${MARKING}/answers/{answer_id}/{part}`, {
      params: { path: { ...at(group, assignment).path, answer_id, part } },
      body,
    }),
  )

export const undoMark = (
  group: number,
  assignment: number,
  answer_id: number,
  part: string,
  marking_id: number,
) =>
  call(
    api.DELETE(`${MARKING}/answers/{answer_id}/{part}/marks/{marking_id}`, {
      params: { path: { ...at(group, assignment).path, answer_id, part, marking_id } },
    }),
  )

/** The question with one part as it is now: the other answers are not asked for again. */
export function withPart(question: Question, { answer, part }: Schemas['MarkedPartOut']) {
  const parts = (all: Part[]) => all.map((one) => (one.part === part.part ? part : one))
  return {
    ...question,
    answers: question.answers.map((one) =>
      one.answer === answer ? { ...one, parts: parts(one.parts) } : one,
    ),
  }
}

export const setCriteria = (
  group: number,
  assignment: number,
  family: string,
  part: string,
  body: Schemas['CriteriaIn'],
) =>
  call(
    api.PUT(`${MARKING}/questions/{family}/{part}/criteria`, {
      params: { path: { ...at(group, assignment).path, family, part } },
      body,
    }),
  )

export const setSecond = (
  group: number,
  assignment: number,
  person: number | null,
  sample: number | null,
  version: string,
) =>
  call(
    api.PUT(`${MARKING}/second`, {
      params: at(group, assignment),
      body: { person, sample, version },
    }),
  )

export const adjustMarker = (group: number, assignment: number, body: Schemas['AdjustIn']) =>
  call(api.POST(`${MARKING}/adjust`, { params: at(group, assignment), body }))

export const releaseMarks = (
  group: number,
  assignment: number,
  attempts: number[] | null,
  waived = '',
) =>
  call(
    api.POST(`${MARKING}/release`, { params: at(group, assignment), body: { attempts, waived } }),
  )
