import { t } from '@lingui/core/macro'
import { ArrowDown } from 'lucide-react'
import { useEffect, useRef, useState } from 'react'

/** Says that the question goes on below the fold, until its end has come into view. */
export function GoesOn() {
  const end = useRef<HTMLDivElement>(null)
  const [below, setBelow] = useState(false)
  useEffect(() => {
    if (!end.current) return
    // What the tools at the bottom cover is not seen either.
    const watcher = new IntersectionObserver(
      ([entry]) => {
        setBelow(entry !== undefined && !entry.isIntersecting && entry.boundingClientRect.top > 0)
      },
      { rootMargin: '0px 0px -56px 0px' },
    )
    watcher.observe(end.current)
    return () => watcher.disconnect()
  }, [])
  return (
    <>
      <div ref={end} aria-hidden="true" className="h-px" />
      {below && (
        <div
          aria-hidden="true"
          className="pointer-events-none sticky bottom-[calc(var(--bar,3.5rem)+0.5rem)] h-0"
        >
          <span className="absolute right-3 bottom-0 flex items-center gap-2 rounded-full border border-gust-mid bg-sheet px-2 py-1.5 @3xl:px-4 text-sm text-gust shadow">
            <ArrowDown size={16} /> <span className="hidden @3xl:inline">{t`more below`}</span>
          </span>
        </div>
      )}
    </>
  )
}
