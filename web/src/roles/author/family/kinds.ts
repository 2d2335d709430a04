import { t } from '@lingui/core/macro'
import type { ComponentType } from 'react'
import type { Json } from '../../../account/merging'
import type { Given } from './json'

/** How a field is edited. rich: a text with chips; tuple: a list with a place for each; truth:
 * yes, no, or an expression that says when. */
export type As =
  | { as: 'rich' | 'words' | 'expression' | 'number' }
  | { as: 'flag'; usual?: boolean }
  | { as: 'one'; of: [string, string][]; usual: string; more?: 'number' }
  | { as: 'list'; of: As; add: string; fresh: Json }
  | { as: 'tuple'; of: Field[] }
  | { as: 'group'; of: Field[] }
  | { as: 'truth' }
  | { as: 'figure' }
  | { as: 'region' }
  | { as: 'table' }
export type Field = { name: string; label: string } & As

export interface FieldProps<A extends As = As> {
  field: { name: string; label: string } & A
  value: Given
  onChange: (value: Given) => void
  /** Where it lies in the file, as the server names it. */
  path: string
  /** Whether its label is only for who cannot see where it stands. */
  quiet?: boolean | undefined
}

/** What shows one field, for what holds several. */
export type View = ComponentType<FieldProps>

/** What a kind is called when it is chosen. */
export const STARTS: Record<string, string> = {
  number: t`A number`,
  choice: t`One of several choices`,
  several: t`Several of several choices`,
  text: t`A word or a few`,
  time: t`A time of day`,
  angle: t`An angle or direction`,
  expression: t`A formula`,
  slider: t`A value on a slider`,
  order: t`Things put in order`,
  match: t`Pairs, left to right`,
  associate: t`Pairs among one list`,
  inline_choice: t`Drop-downs in a text`,
  gap_match: t`Words dragged into a text`,
  hot_text: t`Words picked in a text`,
  hotspot: t`A place picked on a figure`,
  graphic_gap_match: t`Words dragged onto a figure`,
  table_entry: t`A table to fill in`,
  select_point: t`A point on a plane`,
  graph: t`Arrows or a line on a plane`,
  position_object: t`An object placed on a plane`,
  grid_shading: t`Cells shaded in a grid`,
  odd_one_out: t`The odd one out`,
  extended_text: t`A written answer`,
  drawing: t`A sketch`,
  upload: t`A file`,
}

export const kindOf = (part: { kind?: unknown; value?: unknown }): string =>
  part.kind === 'text_entry' ? `text_entry.${part.value}` : String(part.kind)

export const kindWords = (kind: string): string =>
  kind === 'by_rules'
    ? t`Marked by rules that came with it`
    : (STARTS[kind.replace('text_entry.', '')] ?? kind)

/** How hard a question is judged to be, in words for 1 to 5. */
export const HARD = [t`1, very easy`, t`2, easy`, t`3, middling`, t`4, hard`, t`5, very hard`]
