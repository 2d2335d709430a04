import { queryOptions } from '@tanstack/react-query'
import { api, call, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { sentFile } from '../../api/upload'

export type Paper = Schemas['PaperOut']
export type Page = Schemas['PageOut']
export type Came = Schemas['Came']

const LOOK_AGAIN = 2_000

const at = (course: string, attempt_id: number) => ({ path: { course, attempt_id } })

export const paperQuery = (course: string, id: number) =>
  queryOptions({
    queryKey: keys.paper(course, id),
    queryFn: () =>
      call(
        api.GET('/api/courses/{course}/attempts/{attempt_id}/paper', { params: at(course, id) }),
      ),
    refetchInterval: ({ state }) => (state.data?.state === 'open' ? LOOK_AGAIN : false),
  })

export const paperCalls = (course: string, id: number) => ({
  add: (file: Blob, came: Came) =>
    call(
      api.POST('/api/courses/{course}/attempts/{attempt_id}/paper/pages', {
        params: { ...at(course, id), query: { came } },
        ...sentFile(file, 'page'),
      }),
    ),
  change: (page_id: number, body: Schemas['PageIn']) =>
    call(
      api.PATCH('/api/courses/{course}/attempts/{attempt_id}/paper/pages/{page_id}', {
        params: { path: { course, attempt_id: id, page_id } },
        body,
      }),
    ),
  remove: (page_id: number) =>
    call(
      api.DELETE('/api/courses/{course}/attempts/{attempt_id}/paper/pages/{page_id}', {
        params: { path: { course, attempt_id: id, page_id } },
      }),
    ),
  allIn: () =>
    call(
      api.POST('/api/courses/{course}/attempts/{attempt_id}/paper/all-in', {
        params: at(course, id),
      }),
    ),
  link: () =>
    call(
      api.POST('/api/courses/{course}/attempts/{attempt_id}/paper/link', {
        params: at(course, id),
      }),
    ),
})

export const pagePicture = (course: string, attempt: number, page: Page, small: boolean) =>
  `/api/courses/${course}/attempts/${attempt}/paper/pages/${page.id}/picture?small=${small}&v=${page.version}`

export const phoneQuery = (token: string) =>
  queryOptions({
    queryKey: keys.phone(token),
    queryFn: () => call(api.GET('/api/phone/{token}', { params: { path: { token } } })),
  })

export const addFromPhone = (token: string, file: Blob) =>
  call(
    api.POST('/api/phone/{token}/pages', {
      params: { path: { token } },
      ...sentFile(file, 'page'),
    }),
  )
