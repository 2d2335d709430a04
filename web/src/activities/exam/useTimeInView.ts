import { useCallback, useEffect, useRef } from 'react'

/**
 * Seconds a question is in view, noted when it goes out of it. What it gives back notes them at
 * once, for good: before a step that there is no way back from.
 */
export function useTimeInView(number: number, note: (number: number, seconds: number) => void) {
  const latest = useRef(note)
  latest.current = note
  const from = useRef<number | null>(null)
  const noteNow = useCallback(() => {
    if (from.current !== null) latest.current(number, (performance.now() - from.current) / 1000)
    from.current = null
  }, [number])
  useEffect(() => {
    from.current = performance.now()
    return noteNow
  }, [noteNow])
  return noteNow
}
