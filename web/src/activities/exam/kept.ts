import { forget, keep, readJson } from '../../ui/storage'
import type { Place, SoFar } from './queries'

/** What a place holds here: what was put down, and whether the server has it. */
export interface Held {
  data: SoFar
  counter: number
  seconds: number
  /** Whether something here is newer than what the server acknowledged. */
  waiting: boolean
  savedAt: string | null
  seen: boolean
}

/** Where this browser keeps a place until the server has it. owner: begins so for the account. */
export const placeKey = (owner: string, attempt: number, number: number) =>
  `${owner}attempt:${attempt}:${number}`

/** A place as the server has it, or as this browser kept it where that is newer. */
export function heldOf(place: Place, key: string): Held {
  const server: Held = {
    data: place.data,
    counter: place.counter,
    seconds: place.seconds,
    waiting: false,
    savedAt: place.saved_at,
    seen: place.seen,
  }
  const kept = readJson<Held>(key)
  if (!kept.data || (kept.counter ?? 0) <= place.counter) {
    forget(key)
    return server
  }
  return { ...server, ...kept, seen: true, waiting: true }
}

/** Keep what the server does not have yet; forget it once it has. */
export function keepHeld(key: string, held: Held) {
  if (held.waiting)
    keep(key, JSON.stringify({ data: held.data, counter: held.counter, seconds: held.seconds }))
  else forget(key)
}

/** What is put down changed: newer than anything sent before. */
export const changed = (held: Held, data: Partial<SoFar>): Held => ({
  ...held,
  data: { ...held.data, ...data },
  counter: held.counter + 1,
  waiting: true,
  seen: true,
})

/** The server acknowledged a counter; what was put down since still waits. */
export const acknowledged = (held: Held, counter: number, savedAt: string | null): Held => ({
  ...held,
  counter: Math.max(held.counter, counter),
  waiting: held.counter > counter,
  savedAt,
})

export type AnswerState = 'not_seen' | 'empty' | 'partly' | 'answered' | 'sent' | 'paper'

/** How far a place is answered. Whether it is right is nothing the browser knows. */
export function stateOf(place: Place, held: Held): AnswerState {
  if (place.question.closed || place.state === 'sent') return 'sent'
  if (held.data.on_paper) return 'paper'
  const filled = place.question.parts.filter((part) => held.data.responses?.[part.id]?.trim())
  if (filled.length === place.question.parts.length) return 'answered'
  if (filled.length > 0) return 'partly'
  return held.seen ? 'empty' : 'not_seen'
}
