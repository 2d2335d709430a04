import type { ComponentType, ReactNode } from 'react'
import type { Part, PartState } from '../../api/client'

export type Kind = Part['kind']
type OfKind<P, K> = P extends { kind: infer Q } ? (K extends Q ? P : never) : never
export type PartOf<K extends Kind> = OfKind<Part, K>

export type ViewOf = (part: Part) => KindView<Kind>

export interface Strike {
  struck: string[]
  toggle: (choice: string) => void
}

/** What takes an answer gets. `value` is the response as text. */
export interface PartProps<K extends Kind> {
  part: PartOf<K>
  state: PartState
  value: string
  onChange: (value: string) => void
  /** Whether digits choose, when the question has this part alone. */
  keys: boolean
  fieldRef?: (node: HTMLInputElement | null) => void
  /** Choices struck out, and how to strike one out or take that back; where it is allowed. */
  strike?: Strike
  /** What came of it, to be put where it belongs; null while the part is open. */
  review: ReactNode
  /** Of the text that says how what is typed was read. */
  noteId?: string
  /** The views of other kinds, for a part that holds some. */
  viewOf: ViewOf
}

export interface ReviewProps<K extends Kind> {
  part: PartOf<K>
  state: PartState
}

export interface PrintedProps<K extends Kind> {
  part: PartOf<K>
  state: PartState
  value: string
  viewOf: ViewOf
}

/** All that the player knows of a kind. docs/adding-a-kind.md goes through it. */
export interface KindView<K extends Kind> {
  /** Takes the answer, and shows what was given once it is closed. */
  Answer: ComponentType<PartProps<K>>
  /** What came of it, once it is closed. */
  Review: ComponentType<ReviewProps<K>>
  /** On paper: what was given, or room for it. */
  Printed: ComponentType<PrintedProps<K>>
  /** Fetches what is loaded only where it is wanted. */
  load?: (part: PartOf<K>) => Promise<unknown>
  /** How many digits choose something, and the value after one, from 1, was pressed. */
  digits?: (part: PartOf<K>) => number
  afterDigit?: (part: PartOf<K>, value: string, digit: number) => string
  /** Whether it is typed into, and takes the focus when its question is shown. */
  typed?: boolean
  /** Whether it is narrow enough to stand beside others. */
  narrow?: boolean
}
