/**
 * Two changes of the same thing put together, leaf by leaf: what only one of the two changed is
 * theirs, what both did is a choice. Lists are leaves, whole.
 */
export type Json = string | number | boolean | null | Json[] | { [key: string]: Json | undefined }
type Leaves = Map<string, Json>
export type Choice = 'mine' | 'theirs'

export interface Difference {
  path: string
  mine?: Json
  theirs?: Json
}

/** taken: paths that the others alone changed; both: what is to be chosen. */
export interface Merge {
  taken: string[]
  both: Difference[]
}

const isBranch = (value: unknown): value is { [key: string]: Json | undefined } =>
  typeof value === 'object' && value !== null && !Array.isArray(value)

function leavesOf(value: unknown, whole: string[], path = '', into: Leaves = new Map()): Leaves {
  if (isBranch(value) && !whole.includes(path))
    for (const [key, inner] of Object.entries(value))
      leavesOf(inner, whole, path ? `${path}.${key}` : key, into)
  else if (value !== undefined) into.set(path, value as Json)
  return into
}

const same = (a: Json | undefined, b: Json | undefined) => JSON.stringify(a) === JSON.stringify(b)

/** What differs of what was opened, what I want, and what others stored since. whole: branches that
 * only make sense as a whole. */
export function compare(base: object, mine: object, theirs: object, whole: string[]): Merge {
  const [from, own, other] = [base, mine, theirs].map((one) => leavesOf(one, whole)) as [
    Leaves,
    Leaves,
    Leaves,
  ]
  const found: Merge = { taken: [], both: [] }
  for (const path of new Set([...own.keys(), ...other.keys()])) {
    const [began, want, stands] = [from.get(path), own.get(path), other.get(path)]
    if (same(want, stands) || same(began, stands)) continue
    if (same(began, want)) found.taken.push(path)
    else found.both.push({ path, mine: want, theirs: stands })
  }
  return found
}

/** Mine, with what the others alone changed, and theirs where that was chosen. */
export function merged<T extends object>(
  mine: T,
  theirs: object,
  found: Merge,
  chosen: Record<string, Choice>,
): T {
  const result = structuredClone(mine)
  const taken = found.both.filter(({ path }) => chosen[path] === 'theirs').map(({ path }) => path)
  for (const path of [...found.taken, ...taken]) put(result, path.split('.'), at(theirs, path))
  return result
}

const at = (value: unknown, path: string) =>
  path.split('.').reduce<unknown>((one, key) => (isBranch(one) ? one[key] : undefined), value)

function put(into: object, [key = '', ...rest]: string[], value: unknown) {
  const branch = into as Record<string, unknown>
  if (rest.length > 0) {
    if (!isBranch(branch[key])) branch[key] = {}
    put(branch[key] as object, rest, value)
  } else if (value === undefined) delete branch[key]
  else branch[key] = structuredClone(value)
}
