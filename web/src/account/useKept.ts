import { useEffect, useState } from 'react'
import { forget, keep, readKept } from '../ui/storage'
import { keptFor, useSession } from './session'
import { noteDone, noteTyped } from './unsaved'

/**
 * What somebody types and has not saved yet: kept in this browser for their account until it is
 * saved or thrown away, through a reload, another page, a lost session and a refusal.
 */
export function useKept<T>(place: string, initial: () => T) {
  const account = useSession().data?.account?.id ?? 0
  const key = `${keptFor(account)}kept:${place}`
  const [restored, setRestored] = useState(() => readKept(key) !== null)
  const [value, setValue] = useState<T>(() => parsed<T>(readKept(key)) ?? initial())
  useEffect(() => () => noteDone(key), [key])
  const gone = () => {
    forget(key)
    noteDone(key)
    setRestored(false)
  }
  return {
    value,
    /** Whether it was typed before this page was opened. */
    restored,
    set: (next: T) => {
      setValue(next)
      keep(key, JSON.stringify(next))
      noteTyped(key)
    },
    /** It is saved: nothing is kept any more, and this is what stands. */
    saved: (next: T) => {
      setValue(next)
      gone()
    },
    discard: () => {
      setValue(initial())
      gone()
    },
  }
}

export type Kept<T> = ReturnType<typeof useKept<T>>

function parsed<T>(text: string | null): T | null {
  if (text === null) return null
  try {
    return JSON.parse(text) as T
  } catch {
    return null
  }
}
