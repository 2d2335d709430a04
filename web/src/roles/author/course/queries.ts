import { keepPreviousData, queryOptions } from '@tanstack/react-query'
import { api, type Body, call, type Schemas } from '../../../api/client'
import { sentFile } from '../../../api/upload'
import { keys } from '../keys'
import { keptName } from './names'

export type Structure = Schemas['CourseStructureOut']
export type Subject = Schemas['CourseSubject']
export type Topic = Schemas['CourseTopic']
export type InUse = Schemas['TopicInUseOut']
export type StudyPage = Schemas['StudyPageToEditOut']
export type Section = Schemas['PageSectionIn']
export type Resource = Schemas['PageResourceIn']
/** What of a course its authors change. */
export type Shape = Pick<Structure, 'title' | 'subjects' | 'constants'>

const STRUCTURE = '/api/courses/{course}/authoring/structure' as const
const PAGE = '/api/courses/{course}/authoring/pages/{topic}' as const
const of = (course: string) => ({ params: { path: { course } } })
const page = (course: string, topic: string) => ({ params: { path: { course, topic } } })

export const structureQuery = (course: string) =>
  queryOptions({
    queryKey: keys.structure(course),
    queryFn: () => call(api.GET(STRUCTURE, of(course))),
  })

export const changesQuery = (course: string, body: Shape & { version: string }) =>
  queryOptions({
    queryKey: keys.structureChanges(course, body),
    queryFn: () => call(api.POST(`${STRUCTURE}/changes`, { ...of(course), body })),
    gcTime: 0,
    retry: false,
  })

export const saveStructure = (course: string, shape: Shape, version: string) =>
  call(api.PUT(STRUCTURE, { ...of(course), body: { ...shape, version } }))

type Merging = Body<`${typeof STRUCTURE}/merge`>

export const mergingQuery = (course: string, body: Merging) =>
  queryOptions({
    queryKey: keys.merging(course, body),
    queryFn: () => call(api.POST(`${STRUCTURE}/merging`, { ...of(course), body })),
    gcTime: 0,
    retry: false,
  })

export const mergeTopics = (course: string, body: Merging) =>
  call(api.POST(`${STRUCTURE}/merge`, { ...of(course), body }))

export const studyHistoryQuery = (course: string, topic: string) =>
  queryOptions({
    queryKey: keys.studyHistory(course, topic),
    queryFn: () =>
      call(
        api.GET('/api/courses/{course}/authoring/pages/{topic}/history', {
          params: { path: { course, topic } },
        }),
      ),
  })

export const studyPageQuery = (course: string, topic: string) =>
  queryOptions({
    queryKey: keys.studyPage(course, topic),
    queryFn: () => call(api.GET(PAGE, page(course, topic))),
  })

export const studyPreviewQuery = (course: string, topic: string, sections: Section[]) =>
  queryOptions({
    queryKey: keys.studyPreview(course, topic, sections),
    queryFn: () =>
      call(api.POST(`${PAGE}/preview`, { ...page(course, topic), body: { sections } })),
    placeholderData: keepPreviousData,
    gcTime: 0,
    retry: false,
  })

export const savePage = (course: string, topic: string, body: Schemas['StudyPageIn']) =>
  call(api.PUT(PAGE, { ...page(course, topic), body }))

export const addDrawing = (course: string, topic: string, body: Body<`${typeof PAGE}/drawings`>) =>
  call(api.POST(`${PAGE}/drawings`, { ...page(course, topic), body }))

/** A film, its captions or a file for a study page to name; the name it has there. */
export const addPageFile = async (course: string, topic: string, file: File) => {
  const { name } = await call(
    api.POST(`${PAGE}/files`, {
      params: { path: { course, topic }, query: { name: keptName(file.name, 'file') } },
      ...sentFile(file, file.name),
    }),
  )
  return name
}
