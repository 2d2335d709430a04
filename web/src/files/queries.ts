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

/** What is done with any file of one's own. */
const anyFile = (course: string) => ({
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
})

/** Files of a question. */
export const fileCalls = (course: string, question: number) => ({
  ...anyFile(course),
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
  link: () =>
    call(
      api.POST('/api/courses/{course}/questions/{question_id}/files/link', {
        params: { path: { course, question_id: question } },
      }),
    ),
})

const ofTask = (course: string, task_id: number) => ({ params: { path: { course, task_id } } })

/** What a learner hands in with set work. */
export const handInCalls = (course: string, task: number) => ({
  ...anyFile(course),
  list: () => call(api.GET('/api/courses/{course}/work/{task_id}/hand-in', ofTask(course, task))),
  start: (body: Schemas['FileIn']) =>
    call(
      api.POST('/api/courses/{course}/work/{task_id}/hand-in/files', {
        ...ofTask(course, task),
        body,
      }),
    ),
  links: (links: string[]) =>
    call(
      api.PUT('/api/courses/{course}/work/{task_id}/hand-in/links', {
        ...ofTask(course, task),
        body: { links },
      }),
    ),
  handIn: () =>
    call(api.POST('/api/courses/{course}/work/{task_id}/hand-in', ofTask(course, task))),
  takeBack: () =>
    call(api.DELETE('/api/courses/{course}/work/{task_id}/hand-in', ofTask(course, task))),
})

export const handInQuery = (course: string, task: number) =>
  queryOptions({
    queryKey: [...keys.task(course, task), 'hand-in'],
    queryFn: handInCalls(course, task).list,
  })
