import type { Shape, Subject, Topic } from './queries'

/** A topic's place: of its subject, and within that. */
export interface Place {
  s: number
  t: number
}

const USUAL = { target: 80, importance: 1, after: [], closed: false }

export const newTopic = (): Topic => ({ key: '', title: '', ...USUAL })
export const newSubject = (): Subject => ({ key: '', title: '', topics: [newTopic()] })

export const topicsOf = ({ subjects }: Shape): Topic[] => subjects.flatMap(({ topics }) => topics)

/** A list in which one place has another value, or none. */
export function put<T>(list: T[], place: number, ...now: T[]): T[] {
  return [...list.slice(0, place), ...now, ...list.slice(place + 1)]
}

export function withSubject(shape: Shape, s: number, next: Partial<Subject>): Subject[] {
  return shape.subjects.map((one, place) => (place === s ? { ...one, ...next } : one))
}

export function withTopic(shape: Shape, { s, t }: Place, next: Partial<Topic>): Subject[] {
  return shape.subjects.map((one, place) =>
    place === s
      ? { ...one, topics: one.topics.map((it, at) => (at === t ? { ...it, ...next } : it)) }
      : one,
  )
}

/** A list with one of it a place earlier or later. */
export function moved<T>(list: T[], from: number, to: number): T[] {
  const rest = put(list, from)
  return [...rest.slice(0, to), list[from] as T, ...rest.slice(to)]
}

/** A topic at the end of another subject. */
export function inSubject(shape: Shape, { s, t }: Place, to: number): Subject[] {
  const topic = shape.subjects[s]?.topics[t]
  return shape.subjects.map((one, place) => {
    if (place === s) return { ...one, topics: put(one.topics, t) }
    return place === to && topic ? { ...one, topics: [...one.topics, topic] } : one
  })
}

/** Topics before one, which alone it can build on. */
export function before(shape: Shape, { s, t }: Place): Topic[] {
  const earlier = shape.subjects.slice(0, s).flatMap(({ topics }) => topics)
  return [...earlier, ...(shape.subjects[s]?.topics.slice(0, t) ?? [])].filter(({ key }) => key)
}

const MOST_NUMBERS = 20

/** Numbers above nought with commas between; null while they can’t be read. */
export function numbersIn(text: string): number[] | null {
  const numbers = text.split(',').map((one) => Number(one.trim() || Number.NaN))
  const fit = numbers.length <= MOST_NUMBERS && numbers.every((one) => one > 0 && one <= 100_000)
  return fit ? numbers : null
}
