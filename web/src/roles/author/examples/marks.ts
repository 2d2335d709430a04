import { isClock, isWord, rangeAround } from '../family/json'

/** A marked number or word. forms: of a word, the two that it may be. */
export interface Mark {
  name: string
  low: number
  high: number
  step: number
  forms: [string, string] | null
}

/** What is typed: the question with a place for each mark, and an example a row. */
export interface Typed {
  text: string
  marks: Mark[]
  rows: Example[]
  direction: boolean
  title: string
  topic: string
  formula: string
}

export interface Example {
  /** What each mark reads, by name. */
  values: Record<string, string>
  answer: string
}

export const EMPTY: Typed = {
  text: '',
  marks: [],
  rows: [{ values: {}, answer: '' }],
  direction: false,
  title: '',
  topic: '',
  formula: '',
}

/** A number or word that may change from now on. */
export function markFor(name: string, text: string): Mark {
  if (isWord(text)) return { name, low: 0, high: 0, step: 1, forms: [text, ''] }
  if (isClock(text)) {
    const [hours = 0, minutes = 0] = text.split(':').map(Number)
    const at = 60 * hours + minutes
    return {
      name,
      low: Math.max(0, at - 120),
      high: Math.min(1435, at + 120),
      step: 5,
      forms: null,
    }
  }
  const [low, high, step] = rangeAround(text)
  return { name, low, high, step, forms: null }
}

/** The same with a mark called otherwise, unless another one is called so. */
export function named(typed: Typed, old: string, name: string): Partial<Typed> {
  if (old === name || typed.marks.some((mark) => mark.name === name)) return {}
  return {
    text: typed.text.replaceAll(`[[${old}]]`, `[[${name}]]`),
    marks: typed.marks.map((mark) => (mark.name === old ? { ...mark, name } : mark)),
    rows: typed.rows.map(({ values: { [old]: value = '', ...rest }, answer }) => ({
      values: { ...rest, [name]: value },
      answer,
    })),
  }
}

/** Rows whose answer was given, in the shape they are sent in; marks no longer in the text go. */
export function sent({ text, marks, rows, direction }: Typed) {
  const given = rows.filter(({ answer }) => answer.trim() !== '')
  return {
    text,
    direction,
    answers: given.map(({ answer }) => answer.trim()),
    marks: marks
      .filter(({ name }) => text.includes(`[[${name}]]`))
      .map((mark) => ({ ...mark, written: given.map(({ values }) => values[mark.name] ?? '') })),
  }
}
