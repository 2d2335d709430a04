import { keepPreviousData, queryOptions, useMutation, useQueryClient } from '@tanstack/react-query'
import { api, call, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { sentFile } from '../../api/upload'

export type Person = Schemas['PersonOut']
export type Role = Schemas['Role']
export type AccountState = Schemas['AccountState']
export type AuditKind = Schemas['AuditKind']

export interface PeopleFilter {
  text?: string
  role?: Role
  state?: AccountState
  page?: number
}

export interface LogFilter {
  text?: string
  kind?: AuditKind
  since?: string
  until?: string
  older?: number
}

const of = (person_id: number) => ({ params: { path: { person_id } } })

export const officeQuery = queryOptions({
  queryKey: keys.office,
  queryFn: () => call(api.GET('/api/office')),
})

export const peopleQuery = (query: PeopleFilter) =>
  queryOptions({
    queryKey: keys.people(query),
    queryFn: () => call(api.GET('/api/office/people', { params: { query } })),
    placeholderData: keepPreviousData,
  })

export const personQuery = (id: number) =>
  queryOptions({
    queryKey: keys.person(id),
    queryFn: () => call(api.GET('/api/office/people/{person_id}', of(id))),
  })

export const officeGroupsQuery = queryOptions({
  queryKey: keys.officeGroups,
  queryFn: () => call(api.GET('/api/office/groups')),
})

export const officeGroupQuery = (group_id: number) =>
  queryOptions({
    queryKey: keys.officeGroup(group_id),
    queryFn: () =>
      call(api.GET('/api/office/groups/{group_id}', { params: { path: { group_id } } })),
  })

export const schoolQuery = queryOptions({
  queryKey: keys.school,
  queryFn: () => call(api.GET('/api/office/school')),
})

export const logQuery = (query: LogFilter) =>
  queryOptions({
    queryKey: keys.log(query),
    queryFn: () => call(api.GET('/api/office/log', { params: { query } })),
    placeholderData: keepPreviousData,
  })

export const mailsQuery = (query: { text?: string; older?: number }) =>
  queryOptions({
    queryKey: keys.sentMails(query),
    queryFn: () => call(api.GET('/api/office/mails', { params: { query } })),
    placeholderData: keepPreviousData,
  })

export const systemQuery = queryOptions({
  queryKey: keys.system,
  queryFn: () => call(api.GET('/api/office/system')),
  refetchInterval: 10_000,
})

/** A change of a person; what comes back is shown, and lists follow. */
export function usePersonChange<V>(change: (input: V) => Promise<Person>) {
  return useMutation({ mutationFn: change, onSuccess: useShownAnew() })
}

/** What came back of a person is shown, and lists follow. */
export function useShownAnew() {
  const cache = useQueryClient()
  return (person: Person) => {
    void cache.invalidateQueries({ queryKey: keys.office })
    cache.setQueryData(keys.person(person.id), person)
  }
}

export const personCalls = (id: number) => ({
  change: (body: Schemas['PersonIn']) =>
    call(api.PUT('/api/office/people/{person_id}', { ...of(id), body })),
  write: () => call(api.POST('/api/office/people/{person_id}/letter', of(id))),
  close: () => call(api.POST('/api/office/people/{person_id}/close', of(id))),
  reopen: () => call(api.POST('/api/office/people/{person_id}/reopen', of(id))),
  signOut: () => call(api.POST('/api/office/people/{person_id}/sign-out', of(id))),
  endFactor: () => call(api.DELETE('/api/office/people/{person_id}/second-factor', of(id))),
  consent: (body: Schemas['PaperConsentIn']) =>
    call(api.PUT('/api/office/people/{person_id}/consent', { ...of(id), body })),
  guardian: (body: Schemas['GuardianIn']) =>
    call(api.POST('/api/office/people/{person_id}/guardians', { ...of(id), body })),
  endGuardian: (link_id: number) =>
    call(
      api.DELETE('/api/office/people/{person_id}/guardians/{link_id}', {
        params: { path: { person_id: id, link_id } },
      }),
    ),
  putInto: (body: Schemas['PlaceIn']) =>
    call(api.PUT('/api/office/people/{person_id}/places', { ...of(id), body })),
  takeOut: (group_id: number) =>
    call(
      api.DELETE('/api/office/people/{person_id}/places/{group_id}', {
        params: { path: { person_id: id, group_id } },
      }),
    ),
  remove: (name: string) =>
    call(api.DELETE('/api/office/people/{person_id}', { ...of(id), body: { name } })),
})

export const invitePerson = (body: Schemas['InviteIn']) =>
  call(api.POST('/api/office/people', { body }))

export const checkList = (file: File) =>
  call(api.POST('/api/office/list/check', sentFile(file, file.name)))

export const takeList = (file: File) =>
  call(api.POST('/api/office/list', sentFile(file, file.name)))
