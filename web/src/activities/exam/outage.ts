import { useMemo, useRef, useState } from 'react'
import { Unreachable } from '../../api/client'
import { type AttemptCalls, attemptCalls } from './queries'

/** The calls of an attempt, which fail as without a connection while it is cut: how a rehearsal
 * shows what happens then. */
export function useCalls(course: string, id: number) {
  const [offline, setOffline] = useState(false)
  const cut = useRef(offline)
  cut.current = offline
  const calls = useMemo(() => {
    const all = Object.entries(attemptCalls(course, id)).map(([name, send]) => [
      name,
      (...given: never[]) =>
        cut.current
          ? Promise.reject(new Unreachable())
          : (send as (...given: never[]) => Promise<unknown>)(...given),
    ])
    return Object.fromEntries(all) as AttemptCalls
  }, [course, id])
  return { calls, offline, setOffline }
}
