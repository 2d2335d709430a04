import { type ReactNode, useState } from 'react'
import { Button } from '../../../ui/Button'

/** A section that is opened when somebody wants it, with how many things are in it. */
export function Folded({
  title,
  open,
  count,
  children,
}: {
  title: string
  open: boolean
  count?: number
  children: ReactNode
}) {
  const [shown, setShown] = useState(open)
  return (
    <section>
      <h2 className="text-xl">
        <Button
          kind="quiet"
          className="-ml-2 text-xl"
          aria-expanded={shown}
          onClick={() => setShown(!shown)}
        >
          {title} {count ? <span className="text-ink-3">{count}</span> : null}
        </Button>
      </h2>
      {shown && <div className="mt-2">{children}</div>}
    </section>
  )
}
