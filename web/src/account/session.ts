import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { ApiError, api, call, type Schemas } from '../api/client'
import { keys } from '../api/keys'
import { forgetAll } from '../ui/storage'

export type Session = Schemas['SessionOut']
export type Account = NonNullable<Session['account']>

/** What this browser keeps for an account begins with this, and goes when it signs out. */
export const keptFor = (account: number) => `vendaval:${account}:`

export function useSession() {
  return useQuery({
    queryKey: keys.session,
    queryFn: () => call(api.GET('/api/session')),
    staleTime: 60_000,
  })
}

/** Whether this is the demo, with its stand-ins. */
export const useDemo = () => (useSession().data?.demo_accounts.length ?? 0) > 0

const MOST_ASKED = 30

/** Many sign in at once when a lesson begins: the server takes one after the other. */
const waits = (asked: number, error: Error) =>
  error instanceof ApiError && error.code === 'busy' && asked < MOST_ASKED

function useSessionChange<V>(change: (input: V) => Promise<Session>) {
  const cache = useQueryClient()
  return useMutation({
    mutationFn: change,
    retry: waits,
    retryDelay: () => 700 + 600 * Math.random(),
    onSuccess: (session) => {
      const before = cache.getQueryData<Session>(keys.session)?.account
      if (before && before.id !== session.account?.id) forgetAll(keptFor(before.id))
      cache.setQueryData(keys.session, session)
      cache.removeQueries({ predicate: ({ queryKey }) => queryKey[0] !== keys.session[0] })
    },
  })
}

export const useSignIn = () =>
  useSessionChange((body: Schemas['SignInIn']) => call(api.POST('/api/session', { body })))

export const useDemoSignIn = () =>
  useSessionChange((username: string) =>
    call(api.POST('/api/session/demo', { body: { username } })),
  )

export const useSignOut = () => useSessionChange((_: undefined) => call(api.DELETE('/api/session')))

/** Go on as one's own practice learner in a course. The page is loaded anew for who it is then. */
export const useBeginPractice = () =>
  useMutation({
    mutationFn: (course: string) =>
      call(api.POST('/api/courses/{course}/practice-learner', { params: { path: { course } } })),
  })
