import { useState } from 'react'
import { useCourse } from '../../account/course'
import { type Attempt, attemptCalls } from './queries'

/** Points so far, where the test tells them, and how to ask again once something was sent. */
export function useSoFar(attempt: Attempt) {
  const course = useCourse()
  const [soFar, setSoFar] = useState(attempt.so_far)
  const ask = () => {
    if (attempt.so_far === null) return
    // It is asked again with the next one that is sent.
    attemptCalls(course, attempt.id)
      .soFar()
      .then(setSoFar)
      .catch(() => undefined)
  }
  return { soFar, ask }
}
