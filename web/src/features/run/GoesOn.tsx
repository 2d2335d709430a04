import { ArrowDown } from 'lucide-react'
import { useEffect, useRef, useState } from 'react'

/** Says that the question goes on below the fold, until its end has come into view. */
export function GoesOn() {
  const end = useRef<HTMLDivElement>(null)
  const [below, setBelow] = useState(false)
  useEffect(() => {
    if (!end.current) return
    const watcher = new IntersectionObserver(([entry]) => {
      setBelow(entry !== undefined && !entry.isIntersecting && entry.boundingClientRect.top > 0)
    })
    watcher.observe(end.current)
    return () => watcher.disconnect()
  }, [])
  return (
    <>
      <div ref={end} aria-hidden="true" className="h-px" />
      {below && (
        <button
          type="button"
          tabIndex={-1}
          aria-hidden="true"
          onClick={() => end.current?.scrollIntoView({ block: 'end' })}
          className="sticky bottom-16 mr-3 ml-auto flex items-center gap-2 rounded-full border border-gust-mid bg-sheet px-4 py-1.5 text-sm text-gust shadow"
        >
          <ArrowDown size={16} aria-hidden="true" /> goes on below
        </button>
      )}
    </>
  )
}
