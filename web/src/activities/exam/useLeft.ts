import { useEffect, useState } from 'react'

/**
 * Seconds left, counted down from what the server said last; null without a limit.
 * stands: whether the clock stands still.
 */
export function useLeft(
  clock: { left: number | null; at: number },
  stands: boolean,
): number | null {
  const [now, setNow] = useState(() => performance.now())
  useEffect(() => {
    setNow(performance.now())
    if (clock.left === null || stands) return
    const timer = window.setInterval(() => setNow(performance.now()), 500)
    return () => window.clearInterval(timer)
  }, [clock, stands])
  if (clock.left === null || stands) return clock.left
  return Math.max(0, clock.left - Math.max(0, now - clock.at) / 1000)
}

/** 18:42, or 1:05:07 */
export function clockFace(seconds: number): string {
  const whole = Math.ceil(seconds)
  const two = (n: number) => String(n).padStart(2, '0')
  const hours = Math.floor(whole / 3600)
  const minutes = Math.floor((whole % 3600) / 60)
  return hours ? `${hours}:${two(minutes)}:${two(whole % 60)}` : `${minutes}:${two(whole % 60)}`
}
