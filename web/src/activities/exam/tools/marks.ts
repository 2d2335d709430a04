import type { Schemas } from '../../../api/client'

export type MarkedText = Schemas['MarkedText']

/** A word of a text by where its characters stand. */
export interface Standing {
  from: number
  length: number
}

/** Which words, by number, are marked. */
export const wordsMarked = (marked: MarkedText[], words: Standing[]): Set<number> =>
  new Set(
    words.flatMap((word, index) =>
      marked.some((one) => word.from >= one.at && word.from < one.at + one.length) ? [index] : [],
    ),
  )

/** Stretches of words that stand side by side. */
function stretches(chosen: Set<number>, words: Standing[]): MarkedText[] {
  const found: MarkedText[] = []
  words.forEach((word, index) => {
    if (!chosen.has(index)) return
    const last = found.at(-1)
    const length = word.from + word.length
    if (last && chosen.has(index - 1)) last.length = length - last.at
    else found.push({ at: word.from, length: word.length })
  })
  return found
}

/** Marks with the words from one number to another marked; taken off where all of them were. */
export function toggled(
  marked: MarkedText[],
  words: Standing[],
  first: number,
  last: number,
): MarkedText[] {
  const chosen = wordsMarked(marked, words)
  const these = words.map((_, index) => index).filter((index) => index >= first && index <= last)
  const off = these.every((index) => chosen.has(index))
  for (const index of these) {
    if (off) chosen.delete(index)
    else chosen.add(index)
  }
  return stretches(chosen, words)
}
