import { queryOptions, useMutation, useQueryClient } from '@tanstack/react-query'
import { api, call, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'

export type ThreadState = Schemas['ThreadLineOut']['state']

export interface ThreadFilter {
  state?: ThreadState
  topic?: string
  group?: number
  older?: number
}

/** Threads as a list: one's own, those asked of a tutor, or faults reported to an author. */
export const threadsQuery = (of: 'threads' | 'inbox' | 'faults', filter: ThreadFilter) =>
  queryOptions({
    queryKey: keys.threadList(of, filter),
    queryFn: () => call(api.GET(`/api/${of}`, { params: { query: filter } })),
    refetchInterval: 60_000,
  })

export const threadQuery = (thread_id: number) =>
  queryOptions({
    queryKey: keys.thread(thread_id),
    queryFn: () => call(api.GET('/api/threads/{thread_id}', { params: { path: { thread_id } } })),
    refetchInterval: 30_000,
  })

/** Changes of a thread; lists, counts and messages follow. */
export function useThreadChange<V>(change: (input: V) => Promise<Schemas['ThreadOut']>) {
  const cache = useQueryClient()
  return useMutation({
    mutationFn: change,
    onSuccess: (thread) => {
      void cache.invalidateQueries({ queryKey: keys.threads })
      void cache.invalidateQueries({ queryKey: keys.notices })
      void cache.invalidateQueries({ queryKey: keys.groups })
      cache.setQueryData(keys.thread(thread.line.id), thread)
    },
  })
}

export const replyThread = (thread_id: number) => (body: Schemas['ReplyIn']) =>
  call(api.POST('/api/threads/{thread_id}/posts', { params: { path: { thread_id } }, body }))

export const settleThread = (thread_id: number) => (says: string) =>
  call(
    api.POST('/api/threads/{thread_id}/settle', {
      params: { path: { thread_id } },
      body: { says },
    }),
  )

export const linksQuery = queryOptions({
  queryKey: keys.links,
  queryFn: () => call(api.GET('/api/links')),
})

export const calendarQuery = queryOptions({
  queryKey: keys.calendar,
  queryFn: () => call(api.GET('/api/calendar')),
})

export const mailQuery = queryOptions({
  queryKey: keys.mail,
  queryFn: () => call(api.GET('/api/notices/mail')),
})

export const outboxQuery = queryOptions({
  queryKey: keys.outbox,
  queryFn: () => call(api.GET('/api/outbox')),
})

export const accountQuery = queryOptions({
  queryKey: keys.account,
  queryFn: () => call(api.GET('/api/account')),
})
