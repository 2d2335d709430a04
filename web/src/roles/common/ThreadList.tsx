import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import type { Schemas } from '../../api/client'
import { Button } from '../../ui/Button'
import { fieldClass } from '../../ui/Field'
import { Loaded } from '../../ui/states'
import { day, since } from '../../ui/words'
import { type ThreadFilter, type ThreadState, threadsQuery } from './queries'

const STATES: [ThreadState | '', string][] = [
  ['open', t`Waiting for a reply`],
  ['answered', t`Answered`],
  ['settled', t`Answered`],
  ['', t`All`],
]

interface Props {
  of: 'threads' | 'inbox' | 'faults'
  first: ThreadState | ''
  filter?: ThreadFilter
  none: string
}

/** Threads with their state; those that wait come with the longest waiting first. */
export function ThreadList({ of, first, filter = {}, none }: Props) {
  const [state, setState] = useState<ThreadState | ''>(first)
  const [pages, setPages] = useState<number[]>([])
  const older = pages.at(-1)
  const query = useQuery(threadsQuery(of, { ...filter, state: state || undefined, older }))
  return (
    <>
      <label className="mt-4 flex items-center gap-3 text-ink-2">
        {t`Show`}
        <select
          value={state}
          onChange={(event) => {
            setState(event.target.value as ThreadState | '')
            setPages([])
          }}
          className={fieldClass}
        >
          {STATES.map(([value, label]) => (
            <option key={value} value={value}>
              {label}
            </option>
          ))}
        </select>
      </label>
      <Loaded query={query} what={t`the list`}>
        {(page) => (
          <>
            {page.threads.length === 0 && <p className="mt-5 text-ink-2">{none}</p>}
            <ul className="mt-3">
              {page.threads.map((thread) => (
                <Line key={thread.id} thread={thread} own={of === 'threads'} />
              ))}
            </ul>
            <p className="mt-4 flex gap-3">
              {pages.length > 0 && (
                <Button onClick={() => setPages(pages.slice(0, -1))}>{t`Back`}</Button>
              )}
              {page.older !== null && (
                <Button onClick={() => setPages([...pages, page.older ?? 0])}>{t`More`}</Button>
              )}
            </p>
          </>
        )}
      </Loaded>
    </>
  )
}

function Line({ thread, own }: { thread: Schemas['ThreadLineOut']; own: boolean }) {
  return (
    <li className="grid gap-x-6 border-b border-line py-3 @3xl:grid-cols-[minmax(0,1fr)_12rem]">
      <div className="min-w-0">
        <Link
          to={`/threads/${thread.id}`}
          className={`text-gust hover:underline ${thread.unread ? 'font-bold' : 'font-semibold'}`}
        >
          {thread.unread && (
            <>
              <span className="mr-2 rounded bg-sun px-1.5 text-sm text-deep">{t`new`}</span>{' '}
            </>
          )}
          {thread.title}
        </Link>
        <span className="ml-3 text-sm text-ink-2">{thread.topic.title}</span>
        {thread.kind === 'contest' && (
          <span className="ml-3 text-sm font-semibold text-part">{t`says a mark is wrong`}</span>
        )}
        <p className="truncate text-ink-2">
          {!own && <span className="font-semibold text-ink">{thread.asker}: </span>}
          {thread.last}
        </p>
      </div>
      <p className="text-sm text-ink-2 @3xl:text-right">
        {thread.waits_since
          ? t`waiting ${since(thread.waits_since)}`
          : `${thread.state}, ${day(thread.opened_at)}`}
        {thread.same > 1 && (
          <span className="block font-semibold text-part">{t`${thread.same} ask about this idea`}</span>
        )}
      </p>
    </li>
  )
}
