import { keepPreviousData, queryOptions } from '@tanstack/react-query'
import { api, type Body, call, type Schemas } from '../../../api/client'
import { keys } from '../keys'

export type Workbench = Schemas['WorkbenchOut']
export type Problem = Schemas['ProblemOut']
export type Versions = Schemas['VersionsOut']

export const FAMILIES = '/api/courses/{course}/authoring/families' as const
export const FAMILY = '/api/courses/{course}/authoring/families/{family}' as const

export const at = (course: string, family: string) => ({ params: { path: { course, family } } })

/** A family as it is drafted; read anew each time, since it is about to be changed. */
export const workbenchQuery = (course: string, family: string) =>
  queryOptions({
    queryKey: keys.workbench(course, family),
    queryFn: () => call(api.GET(FAMILY, at(course, family))),
    gcTime: 0,
    staleTime: Number.POSITIVE_INFINITY,
  })

/** The same, with the values of another version. */
export const lookAt = (course: string, family: string, seed: number) =>
  call(api.GET(FAMILY, { params: { path: { course, family }, query: { seed } } }))

export const startsQuery = (course: string) =>
  queryOptions({
    queryKey: keys.starts(course),
    queryFn: () =>
      call(api.GET('/api/courses/{course}/authoring/starts', { params: { path: { course } } })),
    staleTime: Number.POSITIVE_INFINITY,
  })

export const publishingQuery = (course: string, family: string, version: string) =>
  queryOptions({
    queryKey: keys.publishing(course, family, version),
    queryFn: () => call(api.GET(`${FAMILY}/publishing`, at(course, family))),
    gcTime: 0,
  })

export const historyQuery = (course: string, family: string) =>
  queryOptions({
    queryKey: keys.history(course, family),
    queryFn: () => call(api.GET(`${FAMILY}/history`, at(course, family))),
    gcTime: 0,
  })

export const comparedQuery = (
  course: string,
  family: string,
  query: { older: number; newer: number; seed: number },
) =>
  queryOptions({
    queryKey: keys.compared(course, family, query),
    queryFn: () =>
      call(api.GET(`${FAMILY}/compare`, { params: { path: { course, family }, query } })),
    placeholderData: keepPreviousData,
  })

export const wrongAnswersQuery = (course: string, family: string) =>
  queryOptions({
    queryKey: keys.wrongAnswers(course, family),
    queryFn: () => call(api.GET(`${FAMILY}/wrong-answers`, at(course, family))),
    staleTime: 60_000,
  })

export const tryQuery = (
  course: string,
  family: string,
  version: string,
  body: Body<'/api/courses/{course}/authoring/families/{family}/try'>,
) =>
  queryOptions({
    queryKey: keys.tryVersion(course, family, version, body),
    queryFn: () => call(api.POST(`${FAMILY}/try`, { ...at(course, family), body })),
    gcTime: 0,
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: (before: Schemas['VersionTriedOut'] | undefined) => before,
  })

export const beginFamily = (course: string, body: Schemas['NewFamilyIn']) =>
  call(api.POST(FAMILIES, { params: { path: { course } }, body }))

export const saveDraft = (course: string, family: string, body: Schemas['SaveDraftIn']) =>
  call(api.PUT(FAMILY, { ...at(course, family), body }))

export const renameVariable = (course: string, family: string, body: Schemas['RenameIn']) =>
  call(api.POST(`${FAMILY}/rename`, { ...at(course, family), body }))

export const adoptQuestion = (course: string, family: string) =>
  call(api.POST(`${FAMILY}/adopt`, at(course, family)))

export const discardDraft = (course: string, family: string) =>
  call(api.DELETE(FAMILY, at(course, family)))

export const publishFamily = (course: string, family: string, body: Schemas['PublishIn']) =>
  call(api.POST(`${FAMILY}/publish`, { ...at(course, family), body }))

export const restoreRevision = (course: string, family: string, number: number) =>
  call(
    api.POST(`${FAMILY}/revisions/{number}/restore`, {
      params: { path: { course, family, number } },
    }),
  )

export const restoreStep = (course: string, family: string, step: number) =>
  call(api.POST(`${FAMILY}/steps/{step}/restore`, { params: { path: { course, family, step } } }))
