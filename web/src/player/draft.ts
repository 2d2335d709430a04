import { useCallback, useState } from 'react'

export type Confidence = 50 | 70 | 90 | 100

/** What a learner has put in and not yet had acknowledged. Kept in this browser until then. */
export interface Draft {
  responses: Record<string, string>
  confidence: Confidence | null
  /** Replay key of a sending that was not acknowledged, with what it sent. */
  pending: { key: string; body: string } | null
}

const EMPTY: Draft = { responses: {}, confidence: null, pending: null }
const storageKey = (id: number) => `vendaval:draft:${id}`

function load(id: number): Draft {
  try {
    return {
      ...EMPTY,
      ...(JSON.parse(localStorage.getItem(storageKey(id)) ?? '{}') as Partial<Draft>),
    }
  } catch {
    return EMPTY
  }
}

function keep(id: number, draft: Draft) {
  localStorage.setItem(storageKey(id), JSON.stringify(draft))
}

export const newKey = () => crypto.randomUUID().replaceAll('-', '')

/** The key to send a draft with: the same one again while what is sent has not changed. */
export function keyFor(id: number, draft: Draft): string {
  const body = JSON.stringify([draft.responses, draft.confidence])
  if (draft.pending?.body === body) return draft.pending.key
  const pending = { key: newKey(), body }
  keep(id, { ...draft, pending })
  return pending.key
}

export function forgetDraft(id: number) {
  localStorage.removeItem(storageKey(id))
}

/** A question's draft, mirrored to this browser's storage. Use with `key={id}`. */
export function useDraft(id: number, answered: Record<string, string>) {
  const [draft, setDraft] = useState<Draft>(() => {
    const kept = load(id)
    return { ...kept, responses: { ...answered, ...kept.responses } }
  })
  const change = useCallback(
    (next: Partial<Draft>) =>
      setDraft((before) => {
        const after = { ...before, ...next }
        keep(id, after)
        return after
      }),
    [id],
  )
  return { draft, change }
}
