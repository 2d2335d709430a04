import { keepPreviousData, queryOptions } from '@tanstack/react-query'
import { api, call, type Schemas } from '../../../api/client'
import { keys } from '../../../api/keys'
import { sentFile } from '../../../api/upload'

export type MarkBook = Schemas['MarkBookOut']

const of = (group_id: number) => ({ params: { path: { group_id } } })
const at = (group_id: number, term_id: number) => ({ params: { path: { group_id, term_id } } })

export const termsQuery = (group: number) =>
  queryOptions({
    queryKey: keys.terms(group),
    queryFn: () => call(api.GET('/api/groups/{group_id}/marks', of(group))),
  })

export const startTerm = (group: number, body: Schemas['TermIn']) =>
  call(api.POST('/api/groups/{group_id}/marks', { ...of(group), body }))

export const markBookQuery = (group: number, term: number) =>
  queryOptions({
    queryKey: keys.markBook(group, term),
    queryFn: () => call(api.GET('/api/groups/{group_id}/marks/{term_id}', at(group, term))),
    placeholderData: keepPreviousData,
  })

export const changeTerm = (group: number, term: number, body: Schemas['ChangeTermIn']) =>
  call(api.PUT('/api/groups/{group_id}/marks/{term_id}', { ...at(group, term), body }))

export const enterMarks = (group: number, term: number, body: Schemas['EntriesIn']) =>
  call(api.POST('/api/groups/{group_id}/marks/{term_id}/entries', { ...at(group, term), body }))

export const markOfQuery = (group_id: number, term_id: number, enrolment_id: number) =>
  queryOptions({
    queryKey: keys.markOf(group_id, term_id, enrolment_id),
    queryFn: () =>
      call(
        api.GET('/api/groups/{group_id}/marks/{term_id}/learners/{enrolment_id}', {
          params: { path: { group_id, term_id, enrolment_id } },
        }),
      ),
  })

export const closingQuery = (group: number, term: number) =>
  queryOptions({
    queryKey: keys.closing(group, term),
    queryFn: () => call(api.GET('/api/groups/{group_id}/marks/{term_id}/closing', at(group, term))),
    gcTime: 0,
  })

export const closeTerm = (group: number, term: number) =>
  call(api.POST('/api/groups/{group_id}/marks/{term_id}/close', at(group, term)))

export const correctMark = (group: number, term: number, body: Schemas['CorrectionIn']) =>
  call(api.POST('/api/groups/{group_id}/marks/{term_id}/corrections', { ...at(group, term), body }))

export const checkMarksFile = (group: number, term: number, file: File) =>
  call(
    api.POST('/api/groups/{group_id}/marks/{term_id}/file/check', {
      ...at(group, term),
      ...sentFile(file, file.name),
    }),
  )

export const importMarks = (group: number, term: number, file: File) =>
  call(
    api.POST('/api/groups/{group_id}/marks/{term_id}/file', {
      ...at(group, term),
      ...sentFile(file, file.name),
    }),
  )
