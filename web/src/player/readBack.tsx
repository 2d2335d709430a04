import { useEffect, useState } from 'react'
import type { Schemas } from '../api/client'

/** How what stands in a part was read, with the text that was read. */
export type ReadBack = Pick<Schemas['ReadBackOut'], 'state' | 'says'> & { value: string }
export type ReadBacks = Record<string, ReadBack>

const AFTER = 600

/** What the server read, by part, with the text of each that it read. */
export const readBacksOf = (
  found: Schemas['ReadBackOut'][],
  responses: Record<string, string>,
): ReadBacks =>
  Object.fromEntries(
    found.map(({ id, state, says }) => [id, { state, says, value: responses[id] ?? '' }]),
  )

/** How what is typed into a question is read, asked for once typing rests. ask: of the server. */
export function useReadBack(
  responses: Record<string, string>,
  wanted: boolean,
  ask: (responses: Record<string, string>) => Promise<Schemas['ReadBackOut'][]>,
): ReadBacks {
  const [read, setRead] = useState<ReadBacks>({})
  // biome-ignore lint/correctness/useExhaustiveDependencies: asked again when the text changes, not who asks
  useEffect(() => {
    if (!wanted || !Object.values(responses).some((text) => text.trim())) return
    let stale = false
    const timer = window.setTimeout(() => {
      ask(responses)
        .then((found) => {
          if (!stale) setRead(readBacksOf(found, responses))
        })
        // What could not be asked is read when it is sent.
        .catch(() => undefined)
    }, AFTER)
    return () => {
      stale = true
      window.clearTimeout(timer)
    }
  }, [responses, wanted])
  return read
}

/** Under a field: how what stands there was read, or that it can't be. */
export function ReadBackNote({ id, value, read }: { id: string; value: string; read?: ReadBack }) {
  const says = read && read.value === value ? read.says : ''
  return (
    <p
      id={id}
      aria-live="polite"
      className={`mt-1.5 min-h-6 max-w-[42rem] text-sm ${read?.state === 'unreadable' ? 'text-part' : 'text-ink-2'}`}
    >
      {says}
    </p>
  )
}
