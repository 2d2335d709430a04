import { loadParts } from '../../../player/kinds/registry'
import { loadMath } from '../../../ui/Html'
import type { Attempt } from '../queries'

export const loadCalculator = () => import('./Calculator')

/** Everything the questions and tools of an attempt need, one piece after another: once it is
 * here, the test asks for nothing more. progress: told how much of it is here, 0 to 1. */
export async function loadAll(attempt: Attempt, progress: (share: number) => void) {
  const questions = attempt.places.map((place) => place.question)
  const pieces: (() => Promise<unknown>)[] = questions.map(
    (question) => () => loadParts(question.parts),
  )
  if (JSON.stringify(questions).includes('class=\\"math')) pieces.push(loadMath)
  if (attempt.tools.includes('calculator') || attempt.tools.includes('scientific'))
    pieces.push(loadCalculator)
  for (const [done, piece] of pieces.entries()) {
    progress(done / pieces.length)
    await piece()
  }
  progress(1)
}
