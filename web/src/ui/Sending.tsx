import { t } from '@lingui/core/macro'
import { useEffect, useState } from 'react'

const AFTER_MS = 400

/** Says that something is being sent, once that takes longer than a moment. */
export function Sending({ busy }: { busy: boolean }) {
  const [late, setLate] = useState(false)
  useEffect(() => {
    if (!busy) return setLate(false)
    const timer = window.setTimeout(() => setLate(true), AFTER_MS)
    return () => window.clearTimeout(timer)
  }, [busy])
  return (
    <span role="status" className="text-ink-2">
      {late && t`Sending…`}
    </span>
  )
}
