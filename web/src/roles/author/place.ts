import { createContext, useContext } from 'react'

/** Where somebody writes questions: a course’s bank, or the own questions of a group. */
export interface Place {
  course: string
  /** The address that its questions lie below, and what the page there is called. */
  at: string
  label: string
  /** Whose own the questions are; null for those of the course. */
  group: number | null
  topics: { key: string; title: string }[]
}

export const PlaceContext = createContext<Place | null>(null)

export function usePlace(): Place {
  const place = useContext(PlaceContext)
  if (!place) throw new Error('a page for writing stands in no place')
  return place
}
