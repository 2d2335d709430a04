import { t } from '@lingui/core/macro'
import type { UseQueryResult } from '@tanstack/react-query'
import type { ReactNode } from 'react'
import { ApiError, Unreachable } from '../api/client'
import { Button, buttonClass } from './Button'

/** Shown while something loads; quiet at first so that quick answers do not flash. */
export function Loading({ what }: { what: string }) {
  return (
    <div role="status" className="p-8 text-ink-2">
      <span className="animate-[pulse_1.500s_ease-in-out_infinite] motion-reduce:animate-none">{t`Loading ${what}…`}</span>
    </div>
  )
}

/** Shown when something could not be loaded, with what to do. */
export function Failed({ error, retry }: { error: unknown; retry: () => void }) {
  const offline = error instanceof Unreachable
  const missing = error instanceof ApiError && error.status === 404
  return (
    <div role="alert" className="p-8 max-w-xl">
      <h1 className="text-2xl">
        {offline ? t`You are offline` : missing ? t`Nothing here` : t`That didn’t work`}
      </h1>
      <p className="mt-2 text-ink-2">
        {offline
          ? t`Nothing is lost. Try again when you are back online.`
          : error instanceof Error
            ? error.message
            : t`Something went wrong on our side.`}
      </p>
      {!offline && !missing && (
        <p className="mt-2 text-ink-2">{t`Everything you sent is saved, and what you typed is kept in this browser.`}</p>
      )}
      <p className="mt-4 flex flex-wrap gap-3">
        {!missing && <Button kind="strong" onClick={retry}>{t`Try again`}</Button>}
        <a href="/" className={buttonClass('plain')}>{t`Go to the first page`}</a>
      </p>
    </div>
  )
}

/** One query's states in one place: loading, failed, or its data. */
export function Loaded<T>({
  query,
  what,
  children,
}: {
  query: UseQueryResult<T>
  what: string
  children: (data: T) => ReactNode
}) {
  if (query.data !== undefined) return <>{children(query.data)}</>
  if (query.isError) return <Failed error={query.error} retry={() => void query.refetch()} />
  return <Loading what={what} />
}
