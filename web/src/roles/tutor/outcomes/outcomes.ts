import { t } from '@lingui/core/macro'
import type { Schemas } from '../../../api/client'
import type { Filter } from '../../../ui/FilterRow'

export type Outcomes = Schemas['OutcomesOut']
export type Sat = Outcomes['learners'][number]
export type Cell = NonNullable<Sat['cells'][number]>

/** What the table is sorted by: a name, the result, minutes, or a question by its column. */
export type By = 'name' | 'result' | 'minutes' | number

export const STATES: Record<Sat['state'], string> = {
  not_begun: t`not started`,
  under_way: t`sitting it now`,
  handed_in: t`handed in`,
  waiting: t`waiting for marks`,
  held: t`not released`,
  told: '',
}

export const filtersFor = (passMark: number | null): Filter<Sat>[] => [
  ['all', t`all`, () => true],
  ['under_way', t`sitting it now`, (one) => one.state === 'under_way'],
  ['not_begun', t`not started`, (one) => one.state === 'not_begun'],
  ['waiting', t`waiting for marks`, (one) => one.state === 'waiting'],
  ['held', t`not released`, (one) => one.state === 'held'],
  [
    'below',
    t`below the pass mark`,
    (one) => passMark !== null && one.per_cent !== null && one.per_cent < passMark,
  ],
  ['late', t`late`, (one) => one.late],
]

/** Learners with these letters in their name, sorted; who has nothing to sort by comes last. */
export function listed(learners: Sat[], words: string, by: By, down: boolean): Sat[] {
  const wanted = words.trim().toLowerCase()
  const found = learners.filter((one) => one.name.toLowerCase().includes(wanted))
  if (by === 'name') return down ? found.reverse() : found
  const known = found.filter((one) => sortedBy(one, by) !== null)
  known.sort((one, other) => Number(sortedBy(one, by)) - Number(sortedBy(other, by)))
  if (down) known.reverse()
  return [...known, ...found.filter((one) => sortedBy(one, by) === null)]
}

function sortedBy(one: Sat, by: Exclude<By, 'name'>): number | null {
  if (by === 'result') return one.per_cent
  if (by === 'minutes') return one.minutes
  return one.cells[by]?.share ?? null
}
