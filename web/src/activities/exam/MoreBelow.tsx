import { t } from '@lingui/core/macro'
import { ChevronDown } from 'lucide-react'
import { useEffect, useRef, useState } from 'react'

/** Says that the page goes on below, for as long as its end is out of view. */
export function MoreBelow() {
  const end = useRef<HTMLDivElement>(null)
  const [below, setBelow] = useState(false)
  useEffect(() => {
    const node = end.current
    if (!node) return
    const watch = new IntersectionObserver(([entry]) => setBelow(!entry?.isIntersecting), {
      rootMargin: '0px 0px -64px 0px',
    })
    watch.observe(node)
    return () => watch.disconnect()
  }, [])
  return (
    <>
      <div ref={end} className="h-px" />
      {below && (
        <p
          aria-hidden="true"
          className="pointer-events-none fixed bottom-[calc(var(--bar,3.5rem)+0.5rem)] left-1/2 flex items-center gap-1 rounded-full bg-deep px-3 py-1 text-sm text-on-deep"
        >
          {t`More below`} <ChevronDown size={16} />
        </p>
      )}
    </>
  )
}
