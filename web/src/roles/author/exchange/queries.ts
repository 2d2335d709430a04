import { keepPreviousData, queryOptions } from '@tanstack/react-query'
import { api, type Body, call, type Schemas } from '../../../api/client'
import { sentFile } from '../../../api/upload'
import { keys } from '../keys'

export type Import = Schemas['ImportOut']
export type ImportLine = Schemas['ImportLineOut']
export type Row = Schemas['ImportRowOut']

const IMPORTS = '/api/courses/{course}/exchange/imports' as const
const ONE = '/api/courses/{course}/exchange/imports/{import_id}' as const
const LOOK_AGAIN = 800
const GOING = ['looking', 'storing']

const of = (course: string) => ({ params: { path: { course } } })
const at = (course: string, import_id: number) => ({ params: { path: { course, import_id } } })

export const importsQuery = (course: string) =>
  queryOptions({
    queryKey: keys.imports(course),
    queryFn: () => call(api.GET(IMPORTS, of(course))),
  })

export const importQuery = (
  course: string,
  import_id: number,
  filter: { wrong: boolean; page: number },
) =>
  queryOptions({
    queryKey: keys.importPage(course, import_id, filter),
    queryFn: () => call(api.GET(ONE, { params: { path: { course, import_id }, query: filter } })),
    placeholderData: keepPreviousData,
    refetchInterval: ({ state }) => (GOING.includes(state.data?.state ?? '') ? LOOK_AGAIN : false),
  })

export const beginImport = (course: string, file: File) =>
  call(
    api.POST(IMPORTS, {
      params: { path: { course }, query: { name: file.name.slice(-120) } },
      ...sentFile(file, file.name),
    }),
  )

export const changeRow = (
  course: string,
  import_id: number,
  line: number,
  body: Body<`${typeof ONE}/rows/{line}`>,
) => call(api.POST(`${ONE}/rows/{line}`, { params: { path: { course, import_id, line } }, body }))

export const setTopic = (course: string, import_id: number, topic: string, words = '') =>
  call(api.POST(`${ONE}/topic`, { ...at(course, import_id), body: { topic, words } }))

export const chooseTest = (course: string, import_id: number, number: number, skip: boolean) =>
  call(
    api.POST(`${ONE}/tests/{number}`, {
      params: { path: { course, import_id, number } },
      body: { skip },
    }),
  )

export const skipWrong = (course: string, import_id: number) =>
  call(api.POST(`${ONE}/skip-wrong`, at(course, import_id)))

export const storeImport = (course: string, import_id: number, body: Schemas['StoreImportIn']) =>
  call(api.POST(`${ONE}/store`, { ...at(course, import_id), body }))

export const undoImport = (course: string, import_id: number) =>
  call(api.POST(`${ONE}/undo`, at(course, import_id)))

export type Export = Schemas['ExportLineOut']
const EXPORTS = '/api/courses/{course}/exchange/exports' as const

export const exportsQuery = (course: string) =>
  queryOptions({
    queryKey: keys.exports(course),
    queryFn: () => call(api.GET(EXPORTS, of(course))),
    refetchInterval: ({ state }) =>
      state.data?.exports.some((one) => one.state === 'writing') ? LOOK_AGAIN : false,
  })

export const beginExport = (course: string, body: Schemas['ExportIn']) =>
  call(api.POST(EXPORTS, { ...of(course), body }))
