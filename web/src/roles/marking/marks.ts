import type { Part } from './queries'

export type Note = NonNullable<Part['first']>['notes'][number]

/** What a marker is about to give a part, as it stands in the form. */
export interface Mark {
  points: Record<number, string>
  comment: string
  notes: Note[]
}

export type Role = NonNullable<Part['first']>['role']

const mine = (part: Part, role: Role) =>
  role === 'agreed' ? (part.agreed ?? part.first) : role === 'second' ? part.second : part.first

/** What stands already, or nothing. */
export function markOf(part: Part, role: Role): Mark {
  const own = mine(part, role)
  return {
    points: Object.fromEntries(Object.entries(own?.points ?? {}).map(([n, p]) => [Number(n), p])),
    comment: own?.comment ?? '',
    notes: own?.notes ?? [],
  }
}

export const isMarked = (part: Part, role: Role) => mine(part, role) !== null

/** Points of criteria that stand in the form, added up; what is no number counts as none. */
export const sumOf = (points: Record<number, string>) =>
  Object.values(points).reduce((sum, text) => sum + (Number(text) || 0), 0)
