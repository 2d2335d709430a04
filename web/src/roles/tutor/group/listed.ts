import { t } from '@lingui/core/macro'
import type { Schemas } from '../../../api/client'
import type { Filter } from '../../../ui/FilterRow'

export type Row = Schemas['LearnerRowOut']

/** What learners are sorted by: who needs most first, names, who was there last, or a topic. */
export type By = 'need' | 'name' | 'last' | `topic:${string}`

export const KIND_FILTERS: Filter<Row>[] = [
  ['all', t`all`, () => true],
  ['stuck', t`stuck`, (row) => row.kind === 'stuck'],
  ['idle', t`inactive`, (row) => ['left', 'not_begun', 'away'].includes(row.kind)],
  ['lost', t`forgotten`, (row) => row.kind === 'lost'],
  ['waiting', t`ideas to cover`, (row) => row.kind === 'waiting'],
  ['challenge', t`work too hard or easy`, (row) => row.kind.startsWith('too_')],
  ['well', t`at work`, (row) => ['working', 'secure'].includes(row.kind)],
]

/** Learners with these letters in their name, sorted. topics: keys in the order of the cells. */
export function listed(rows: Row[], words: string, by: By, topics: string[]): Row[] {
  const wanted = words.trim().toLowerCase()
  const found = rows.filter((row) => row.name.toLowerCase().includes(wanted))
  if (by === 'need') return found
  if (by === 'name') return found.sort((one, other) => one.name.localeCompare(other.name))
  if (by === 'last')
    return found.sort((one, other) => (other.last_at ?? '').localeCompare(one.last_at ?? ''))
  const place = topics.indexOf(by.slice('topic:'.length))
  const level = (row: Row) => row.cells[place]?.reading.level ?? 101
  return found.sort((one, other) => level(one) - level(other))
}
