import { queryOptions } from '@tanstack/react-query'
import { api, call, type Schemas } from '../api/client'
import { keys } from '../api/keys'
import type { FilesPlace } from './place'

export type StoredFile = Schemas['FileOut']
export type Files = Schemas['FilesOut']

const LOOK_AGAIN = 2_000

export const filesQuery = ({ whose, question }: FilesPlace, watching = false) =>
  queryOptions({
    queryKey: keys.files(question),
    queryFn: () =>
      'course' in whose
        ? call(
            api.GET('/api/courses/{course}/questions/{question_id}/files', {
              params: { path: { course: whose.course, question_id: question } },
            }),
          )
        : call(
            api.GET('/api/learners/{enrolment_id}/questions/{question_id}/files', {
              params: { path: { enrolment_id: whose.enrolment, question_id: question } },
            }),
          ),
    refetchInterval: watching ? LOOK_AGAIN : false,
  })

const at = (course: string, file_id: number) => ({ path: { course, file_id } })

export const fileCalls = (course: string, question: number) => ({
  list: () =>
    call(
      api.GET('/api/courses/{course}/questions/{question_id}/files', {
        params: { path: { course, question_id: question } },
      }),
    ),
  start: (body: Schemas['FileIn']) =>
    call(
      api.POST('/api/courses/{course}/questions/{question_id}/files', {
        params: { path: { course, question_id: question } },
        body,
      }),
    ),
  chunk: (file: number, piece: number, data: Blob) =>
    call(
      api.PUT('/api/courses/{course}/files/{file_id}/chunks/{piece}', {
        params: { path: { course, file_id: file, piece } },
        body: data as unknown as string,
        bodySerializer: (body) => body,
        headers: { 'Content-Type': 'application/octet-stream' },
      }),
    ),
  remove: (file: number) =>
    call(api.DELETE('/api/courses/{course}/files/{file_id}', { params: at(course, file) })),
  link: () =>
    call(
      api.POST('/api/courses/{course}/questions/{question_id}/files/link', {
        params: { path: { course, question_id: question } },
      }),
    ),
})
