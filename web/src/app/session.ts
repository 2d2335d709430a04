import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, call, type Schemas } from '../api/client'

export type Session = Schemas['SessionOut']
export const sessionKey = ['session'] as const

export function useSession() {
  return useQuery({
    queryKey: sessionKey,
    queryFn: () => call(api.GET('/api/session')),
    staleTime: 60_000,
  })
}

function useSessionChange<V>(change: (input: V) => Promise<Session>) {
  const cache = useQueryClient()
  return useMutation({
    mutationFn: change,
    onSuccess: (session) => {
      cache.setQueryData(sessionKey, session)
      cache.removeQueries({ predicate: ({ queryKey }) => queryKey[0] !== sessionKey[0] })
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
