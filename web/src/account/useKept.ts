import { useState } from 'react'
import { forget, keep, readKept } from '../ui/storage'
import { keptFor, useSession } from './session'

/**
 * What somebody types and has not saved yet: kept in this browser for their account until it is
 * saved or thrown away, through a reload, another page, a lost session and a refusal.
 */
export function useKept<T>(place: string, initial: () => T) {
  const account = useSession().data?.account?.id ?? 0
  const key = `${keptFor(account)}kept:${place}`
  const [restored, setRestored] = useState(() => readKept(key) !== null)
  const [value, setValue] = useState<T>(() => parsed<T>(readKept(key)) ?? initial())
  return {
    value,
    /** Whether it was typed before this page was opened. */
    restored,
    set: (next: T) => {
      setValue(next)
      keep(key, JSON.stringify(next))
    },
    /** It is saved: nothing is kept any more. */
    saved: () => {
      forget(key)
      setRestored(false)
    },
    discard: () => {
      forget(key)
      setRestored(false)
      setValue(initial())
    },
  }
}

function parsed<T>(text: string | null): T | null {
  if (text === null) return null
  try {
    return JSON.parse(text) as T
  } catch {
    return null
  }
}
