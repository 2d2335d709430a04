import { type ReadBack, readBacksOf } from '../../player/readBack'
import { forget, keep, readJson } from '../../ui/storage'
import type { Place, SoFar } from './queries'

type ReadBacks = Place['read']

/** What a place holds here: what was put down, and whether the server has it. */
export interface Held {
  data: SoFar
  counter: number
  seconds: number
  /** Whether something here is newer than what the server acknowledged. */
  waiting: boolean
  savedAt: string | null
  seen: boolean
  /** How the server read what stands in a part, with the text that it read. */
  read: Record<string, ReadBack>
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
    read: readBacksOf(place.read, place.data.responses ?? {}),
  }
  const kept = readJson<Held>(key)
  if (!kept.data || (kept.counter ?? 0) <= place.counter) {
    forget(key)
    return server
  }
  return { ...server, ...kept, seen: true, waiting: true }
}

/** Places by their numbers. key: of each. */
export const heldAt = (places: Place[], key: (number: number) => string): Record<number, Held> =>
  Object.fromEntries(places.map((place) => [place.number, heldOf(place, key(place.number))]))

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

/** The server acknowledged a counter; what was put down since still waits. sent: what it read. */
export const acknowledged = (
  held: Held,
  counter: number,
  saved: { saved_at: string | null; read: ReadBacks },
  sent: SoFar,
): Held => ({
  ...held,
  counter: Math.max(held.counter, counter),
  waiting: held.counter > counter,
  savedAt: saved.saved_at,
  read: readBacksOf(saved.read, sent.responses ?? {}),
})

export type AnswerState = Place['state']

/** How far a place is answered: as the server read it, and what it has not read yet counts as
 * readable. Whether it is right is nothing the browser knows. */
export function stateOf(place: Place, held: Held): AnswerState {
  if (place.question.closed || place.state === 'sent') return 'sent'
  if (held.data.on_paper) return 'paper'
  const states = new Set(
    place.question.parts.map(({ id }) => {
      const value = held.data.responses?.[id] ?? ''
      if (!value.trim()) return 'blank'
      return held.read[id]?.value === value ? held.read[id].state : 'read'
    }),
  )
  if (states.has('unreadable')) return 'unreadable'
  if (!states.has('blank') && !states.has('incomplete')) return 'answered'
  if (states.has('read') || states.has('incomplete')) return 'partly'
  return held.seen ? 'empty' : 'not_seen'
}
