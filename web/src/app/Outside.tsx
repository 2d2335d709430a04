import { t } from '@lingui/core/macro'
import type { ReactNode } from 'react'
import { Mark } from '../ui/Mark'
import { useTitle } from '../ui/useTitle'

/** A page for who is not signed in: the name of the house above what it is about. */
export function Outside({ title, children }: { title: string; children: ReactNode }) {
  useTitle(title)
  return (
    <>
      <header className="on-deep bg-deep px-6 py-4 text-on-deep">
        <p className="mx-auto flex max-w-xl items-center gap-3 font-heading text-2xl font-bold">
          <Mark /> {t`vendaval`}
        </p>
      </header>
      <main id="main" className="mx-auto max-w-xl px-6 py-8">
        <h1 className="text-3xl">{title}</h1>
        {children}
      </main>
    </>
  )
}
