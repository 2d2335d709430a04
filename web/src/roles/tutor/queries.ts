import { queryOptions } from '@tanstack/react-query'
import { api, call, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'

const of = (group_id: number) => ({ params: { path: { group_id } } })

export const groupsQuery = queryOptions({
  queryKey: keys.groups,
  queryFn: () => call(api.GET('/api/groups')),
  staleTime: 20_000,
})

export const groupQuery = (id: number) =>
  queryOptions({
    queryKey: keys.group(id),
    queryFn: () => call(api.GET('/api/groups/{group_id}', of(id))),
  })

export const groupSettingsQuery = (id: number) =>
  queryOptions({
    queryKey: keys.groupSettings(id),
    queryFn: () => call(api.GET('/api/groups/{group_id}/settings', of(id))),
  })

export const setGroup = (id: number, body: Schemas['GroupSettingsIn']) =>
  call(api.PUT('/api/groups/{group_id}/settings', { ...of(id), body }))

export const makeCode = (id: number) => call(api.POST('/api/groups/{group_id}/code', of(id)))

export const endCode = (id: number) => call(api.DELETE('/api/groups/{group_id}/code', of(id)))
