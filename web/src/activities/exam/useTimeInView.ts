import { useEffect, useRef } from 'react'

/** Seconds a question is in view, noted when it goes out of it; and that it was seen. */
export function useTimeInView(number: number, note: (number: number, seconds: number) => void) {
  const latest = useRef(note)
  latest.current = note
  useEffect(() => {
    const from = performance.now()
    latest.current(number, 0)
    return () => latest.current(number, (performance.now() - from) / 1000)
  }, [number])
}
