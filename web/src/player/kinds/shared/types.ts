import type { Part, PartState } from '../../../api/client'

type OfKind<P, K> = P extends { kind: infer Q } ? (K extends Q ? P : never) : never

/** What every part component gets. `value` is the response as text. */
export interface PartProps<K extends Part['kind']> {
  part: OfKind<Part, K>
  state: PartState
  value: string
  onChange: (value: string) => void
  /** Whether digits choose, when the question has this part alone. */
  keys: boolean
  fieldRef?: (node: HTMLInputElement | null) => void
  /** Choices struck out, and how to strike one out or take that back; where it is allowed. */
  strike?: Strike
}

export interface Strike {
  struck: string[]
  toggle: (choice: string) => void
}
