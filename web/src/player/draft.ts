import { useCallback, useState } from 'react'
import { forget, keep, readJson } from '../ui/storage'
import { NO_WORKING, type Working } from './strokes'

export type Confidence = 50 | 70 | 90 | 100

/** What a learner has put in and not yet had acknowledged. Kept in this browser until then. */
export interface Draft {
  responses: Record<string, string>
  confidence: Confidence | null
  working: Working
  /** Replay key of a sending that was not acknowledged, with what it sent. */
  pending: { key: string; body: string } | null
}

const EMPTY: Draft = { responses: {}, confidence: null, working: NO_WORKING, pending: null }

/** Where a question's draft is kept. owner: what this browser keeps for the account begins so. */
export const draftPlace = (owner: string, id: number) => `${owner}draft:${id}`

export const readDraft = (place: string): Draft => ({ ...EMPTY, ...readJson<Draft>(place) })

const write = (place: string, draft: Draft) => keep(place, JSON.stringify(draft))

export const newKey = () => crypto.randomUUID().replaceAll('-', '')

/** Keys of sendings in this page, for when the browser keeps nothing. */
const sending = new Map<string, { key: string; body: string }>()

/** Keys whose reply came: the same draft sent once more is another sending. */
const replied = new Set<string>()

/** The key to send a draft with: the same one again while what is sent has not changed. */
export function keyFor(place: string, draft: Draft): string {
  const body = JSON.stringify([draft.responses, draft.confidence, draft.working])
  const before = draft.pending ?? sending.get(place)
  const again = before?.body === body && !replied.has(before.key)
  const pending = again ? before : { key: newKey(), body }
  sending.set(place, pending)
  write(place, { ...draft, pending })
  return pending.key
}

/** The reply to what was sent from here has come. */
export function acknowledge(place: string) {
  const sent = sending.get(place) ?? readDraft(place).pending
  if (sent) replied.add(sent.key)
  sending.delete(place)
}

export function forgetDraft(place: string) {
  sending.delete(place)
  forget(place)
}

/** A question's draft, mirrored to this browser's storage. Use with `key={id}`. */
export function useDraft(place: string, answered: Record<string, string>) {
  const [draft, setDraft] = useState<Draft>(() => {
    const kept = readDraft(place)
    return { ...kept, responses: { ...answered, ...kept.responses } }
  })
  const change = useCallback(
    (next: Partial<Draft>) =>
      setDraft((before) => {
        const after = { ...before, ...next }
        write(place, after)
        return after
      }),
    [place],
  )
  return { draft, change }
}
