import { t } from '@lingui/core/macro'
import { useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useRef, useState } from 'react'
import { useAccountId, useCourse } from '../../account/course'
import { keptFor } from '../../account/session'
import { ApiError, ServerTrouble, Unreachable } from '../../api/client'
import { keys } from '../../api/keys'
import { acknowledged, changed, type Held, heldAt, keepHeld, placeKey } from './kept'
import { useCalls } from './outage'
import type { Attempt, Clock, SoFar } from './queries'

const SIGN_EACH = 15_000
const SAVE_AFTER = 500
const AGAIN_AFTER = 3_000
const LOOK_WHILE_PAUSED = 3_000

export type Over = { why: 'handed_in' | 'elsewhere'; says: string }

/**
 * An attempt that goes on in this page: what is put down is kept here at once and sent in order;
 * without a connection it waits. The clock is the server's; this page only counts down from it.
 */
export function useAttempt(attempt: Attempt, first: Clock) {
  const course = useCourse()
  const owner = keptFor(useAccountId())
  const cache = useQueryClient()
  const { calls, offline, setOffline } = useCalls(course, attempt.id)
  const key = useCallback(
    (number: number) => placeKey(owner, attempt.id, number),
    [owner, attempt.id],
  )
  const [held, setHeld] = useState(() => heldAt(attempt.places, key))
  const latest = useRef(held)
  // Those of a section with a limit come when it begins.
  const fresh = attempt.places.filter((place) => !latest.current[place.number])
  if (fresh.length > 0) {
    latest.current = { ...latest.current, ...heldAt(fresh, key) }
    setHeld(latest.current)
  }
  const interval = useRef(first.interval)
  const [clock, setClock] = useState(() => ({ left: first.left, at: performance.now() }))
  const [since, setSince] = useState<string | null>(null)
  const [trouble, setTrouble] = useState(false)
  const [over, setOver] = useState<Over | null>(null)
  /** Why the tutor has stopped the clock; null while it goes on. */
  const [paused, setPaused] = useState(first.paused)
  const [section, setSection] = useState(first.section)
  const busy = useRef(false)
  const stopped = useRef(false)

  const put = useCallback(
    (number: number, next: (before: Held) => Held) => {
      const before = latest.current[number]
      if (!before) return
      const after = next(before)
      latest.current = { ...latest.current, [number]: after }
      keepHeld(key(number), after)
      setHeld(latest.current)
    },
    [key],
  )

  const tell = useCallback((left: number | null) => {
    setClock({ left, at: performance.now() })
    setSince(null)
  }, [])

  const end = useCallback(
    (why: Over['why'], says: string) => {
      stopped.current = true
      setOver({ why, says })
      void cache.invalidateQueries({ queryKey: keys.course(course) })
    },
    [cache, course],
  )

  const failed = useCallback(
    (error: unknown) => {
      if (error instanceof Unreachable || error instanceof ServerTrouble) {
        setSince((before) => before ?? new Date().toISOString())
        setTrouble(error instanceof ServerTrouble)
      } else if (error instanceof ApiError && error.code === 'paused')
        setPaused((before) => before ?? '')
      else if (error instanceof ApiError)
        end(error.code === 'elsewhere' ? 'elsewhere' : 'handed_in', error.message)
      else throw error
    },
    [end],
  )

  /** Send everything that waits, one after the other; whether nothing waits any more. */
  const flush = useCallback(async (): Promise<boolean> => {
    if (busy.current || stopped.current) return false
    busy.current = true
    try {
      for (;;) {
        const [number, waiting] =
          Object.entries(latest.current).find(([, one]) => one.waiting) ?? []
        if (!number || !waiting) return true
        const { counter, seconds, data } = waiting
        const body = { interval: interval.current, counter, seconds: Math.round(seconds), data }
        try {
          const saved = await calls.save(Number(number), body)
          put(Number(number), (one) =>
            acknowledged(one, Math.max(counter, saved.counter), saved, data),
          )
          tell(saved.left)
        } catch (error) {
          if (error instanceof ApiError && ['behind', 'not_yet'].includes(error.code)) {
            put(Number(number), (one) => ({ ...one, waiting: false }))
            continue
          }
          failed(error)
          return false
        }
      }
    } finally {
      busy.current = false
    }
  }, [calls, failed, put, tell])

  const timer = useRef(0)
  const soon = useCallback(() => {
    window.clearTimeout(timer.current)
    timer.current = window.setTimeout(() => void flush(), SAVE_AFTER)
  }, [flush])

  const change = useCallback(
    (number: number, data: Partial<SoFar>) => {
      if (stopped.current) return
      put(number, (before) => changed(before, data))
      soon()
    },
    [put, soon],
  )

  /** A question came into view, or leaves it after some seconds. */
  const note = useCallback(
    (number: number, seconds: number) => {
      if (stopped.current) return
      put(number, (before) => ({ ...changed(before, {}), seconds: before.seconds + seconds }))
      soon()
    },
    [put, soon],
  )

  /** Ask how the attempt stands: it may be handed in, opened elsewhere, or in its next section. */
  const look = useCallback(
    () =>
      calls
        .sign(interval.current)
        .then(async (found) => {
          setPaused(found.paused)
          if (found.handed_in) {
            // What still waits here is sent all the same: it is kept as late.
            await flush()
            end('handed_in', t`This attempt has been handed in.`)
          } else if (found.interval !== interval.current)
            end('elsewhere', t`You opened this test elsewhere. Continue there.`)
          else {
            tell(found.left)
            setSection(found.section)
          }
        })
        .catch(failed),
    [calls, end, failed, flush, tell],
  )

  const isPaused = paused !== null
  useEffect(() => {
    const again = window.setInterval(() => {
      if (Object.values(latest.current).some((one) => one.waiting)) void flush()
    }, AGAIN_AFTER)
    const alive = window.setInterval(
      () => {
        if (!stopped.current) void look()
      },
      isPaused ? LOOK_WHILE_PAUSED : SIGN_EACH,
    )
    const back = () => void flush()
    window.addEventListener('online', back)
    void flush()
    return () => {
      window.clearInterval(again)
      window.clearInterval(alive)
      window.clearTimeout(timer.current)
      window.removeEventListener('online', back)
    }
  }, [flush, isPaused, look])

  /** Everything sent that waited, also what was being sent just now. */
  const allSent = useCallback(async (): Promise<boolean> => {
    window.clearTimeout(timer.current)
    for (let turn = 0; turn < 20 && busy.current; turn++)
      await new Promise((done) => window.setTimeout(done, 100))
    return await flush()
  }, [flush])

  /** Everything sent, then handed in. Whether it was. */
  const handIn = useCallback(async (): Promise<boolean> => {
    if (!(await allSent()) && !stopped.current) return false
    try {
      const receipt = await calls.handIn(interval.current)
      cache.setQueryData(keys.receipt(course, attempt.id), receipt)
      end('handed_in', receipt.why_over)
      return true
    } catch (error) {
      failed(error)
      return false
    }
  }, [allSent, attempt.id, cache, calls, course, end, failed])

  /** Everything sent, then forward without a way back; nothing when it could not be. */
  const moveOn = useCallback(
    async (from: { section: number; position: number }): Promise<Attempt | undefined> => {
      if (!(await allSent())) return undefined
      try {
        const next = await calls.moveOn(from)
        tell(next.left)
        setSection(next.section)
        return next
      } catch (error) {
        failed(error)
        return undefined
      }
    },
    [allSent, calls, failed, tell],
  )

  /** Leave for now; whether that handed it in. */
  const leave = useCallback(async () => {
    await allSent()
    const found = await calls.leave(interval.current).catch(() => undefined)
    stopped.current = true
    return found?.handed_in ?? false
  }, [allSent, calls])

  /** The time of a section is over: everything sent, then asked what comes. */
  const sectionOver = useCallback(async () => {
    await allSent()
    await look()
  }, [allSent, look])

  return {
    ...{ held, change, note, clock, since, trouble, over, paused, section },
    ...{ handIn, moveOn, leave, sectionOver, offline, setOffline },
  }
}

export type Going = ReturnType<typeof useAttempt>
