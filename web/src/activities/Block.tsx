import type { ReactNode } from 'react'

/** A titled part of what stands beside the stage. */
export function Block({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section>
      <h2 className="text-lg">{title}</h2>
      {children}
    </section>
  )
}
