import type { Attempt, Place } from './queries'

/** Every question on the page of one. */
export const pageOf = (attempt: Attempt, at: Place) =>
  attempt.places.filter(({ page }) => page === at.page)

/** Whether a question can be gone to: where there is no way back, only to the page reached. */
export const canGoTo = (attempt: Attempt, place: Place) =>
  !place.forward_only || place.page === attempt.position

export interface WayOn {
  /** The question to go back to, where there is a way. */
  back: number | undefined
  /** The next question; a step without a way back, asked for first; or what comes at the end. */
  on: number | 'page' | 'section' | 'check'
}

/** Where the page of a question leads. What a step leads to is said by the server. */
export function wayOn(attempt: Attempt, at: Place): WayOn {
  const timed = attempt.sections.some(({ minutes }) => minutes !== null)
  const open = (place: Place) =>
    canGoTo(attempt, place) && (!timed || place.section === attempt.section)
  const before = attempt.places.findLast(({ page }) => page < at.page)
  const next = attempt.places.find((place) => place.page > at.page && open(place))
  return {
    back: before && open(before) ? before.number : undefined,
    on: step(attempt, at) ?? next?.number ?? 'check',
  }
}

function step(attempt: Attempt, at: Place) {
  if (attempt.onward === 'page')
    return at.forward_only && at.page === attempt.position ? 'page' : undefined
  const ends = !attempt.places.some(({ page, section }) => page > at.page && section === at.section)
  return attempt.onward === 'section' && at.section === attempt.section && ends
    ? 'section'
    : undefined
}
