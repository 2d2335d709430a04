import { t } from '@lingui/core/macro'
import type { ComponentType } from 'react'
import type { Json } from '../../../account/merging'
import type { Given } from './json'

/** How a field is edited. rich: a text with chips; tuple: a list with a place for each. */
export type As =
  | { as: 'rich' | 'words' | 'expression' | 'number' | 'lines' }
  | { as: 'flag'; usual?: boolean }
  | { as: 'one'; of: [string, string][]; usual: string; more?: 'number' }
  | { as: 'list'; of: As; add: string; fresh: Json; one: string }
  | { as: 'tuple'; of: Field[] }
  | { as: 'group'; of: Field[] }
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

const rich = (name: string, label: string): Field => ({ name, label, as: 'rich' })
const words = (name: string, label: string): Field => ({ name, label, as: 'words' })
const expression = (name: string, label: string): Field => ({ name, label, as: 'expression' })
const number = (name: string, label: string): Field => ({ name, label, as: 'number' })
const flag = (name: string, label: string, usual = false): Field => ({
  name,
  label,
  as: 'flag',
  usual,
})
const list = (
  name: string,
  label: string,
  one: string,
  of: As,
  fresh: Json,
  add = t`Add ${one}`,
): Field => ({ name, label, as: 'list', of, add, fresh, one })
const group = (...of: Field[]): As => ({ as: 'group', of })
const tuple = (...of: Field[]): As => ({ as: 'tuple', of })

const label = words('label', t`Label beside it`)
const says = rich('says', t`What is said to it`)
const partial = (usual = true) => flag('partial', t`A share of the points for what is right`, usual)
const figure: Field = { name: 'figure', label: t`Figure`, as: 'figure' }

const slips = (what: Field): Field =>
  list(
    'near_misses',
    t`Foreseen wrong answers`,
    t`a wrong answer`,
    group(what, says),
    { [what.name]: '', says: '' },
    t`Add a wrong answer you foresee`,
  )
const mixUps: Field = list(
  'near_misses',
  t`Foreseen mix-ups`,
  t`a mix-up`,
  group(words('place', t`In the place of`), rich('token', t`They put`), says),
  { place: '', token: '', says: '' },
)
const spare = list('spare', t`That fit nowhere`, t`one`, { as: 'rich' }, '')
const gapText = rich('text', t`Text, with {{0}}, {{1}} … where the gaps are`)
const options = (...more: Field[]): Field =>
  list(
    'choices',
    t`Choices`,
    t`a choice`,
    group(rich('text', t`Choice`), expression('right', t`Right: yes, no or when`), says, ...more),
    { text: '', right: false },
  )
const choosing: Field = {
  name: 'choose',
  label: t`How many can be chosen`,
  as: 'one',
  of: [
    ['1', t`one`],
    ['2', t`two`],
    ['3', t`three`],
    ['any', t`as many as they like`],
  ],
  usual: '1',
  more: 'number',
}
const choice: Field[] = [label, choosing, flag('shuffle', t`In another order each time`, true)]
const written: Field[] = [
  label,
  rich('model', t`What a good answer says`),
  list(
    'criteria',
    t`What a marker looks for`,
    t`a criterion`,
    group(rich('says', t`Criterion`), number('points', t`Points`)),
    { points: 1, says: '' },
  ),
]
const axis = (name: string, label: string): Field => ({
  name,
  label,
  as: 'group',
  of: [
    words('name', t`Name`),
    number('low', t`From`),
    number('high', t`To`),
    number('step', t`Points lie on steps of`),
    number('mark', t`A line every`),
    flag('clock', t`Times of day`),
  ],
})
const plane: Field[] = [
  label,
  axis('x', t`Across`),
  axis('y', t`Up`),
  list(
    'targets',
    t`Points that are right`,
    t`a point`,
    group(
      words('name', t`Name`),
      expression('x', t`Across`),
      expression('y', t`Up`),
      expression('tolerance', t`Within`),
    ),
    { x: 0, y: 0, tolerance: 0.5 },
  ),
  list(
    'near_misses',
    t`Foreseen wrong places`,
    t`a wrong place`,
    group(expression('x', t`Across`), expression('y', t`Up`), says),
    { x: 0, y: 0, says: '' },
  ),
]
const pairs = list(
  'pairs',
  t`Pairs that belong together`,
  t`a pair`,
  tuple(rich('0', t`One`), rich('1', t`Other`)),
  ['', ''],
)
const answer = expression('answer', t`The answer`)
const answerSlips = slips(expression('answer', t`They get`))
const near: Field[] = [
  expression('tolerance', t`Right within`),
  words('unit', t`Unit`),
  number('digits', t`Decimals shown`),
]

/** Fields of each kind of part, by what its file says: its `kind`, and `value` where it has one. */
export const KINDS: Record<string, Field[]> = {
  'text_entry.number': [
    answer,
    ...near,
    answerSlips,
    label,
    number('relative', t`Or within this share of it`),
    number('figures', t`Significant figures asked for`),
    list('units', t`Other units taken`, t`a unit`, { as: 'words' }, ''),
  ],
  'text_entry.angle': [answer, ...near, answerSlips, label],
  'text_entry.time': [
    answer,
    expression('tolerance', t`Right within, in minutes`),
    answerSlips,
    label,
  ],
  'text_entry.text': [
    list('accepted', t`Accepted answers, the first is shown`, t`a spelling`, { as: 'rich' }, ''),
    label,
    flag('case', t`Capitals matter`),
    flag('accents', t`Accents matter`),
    flag('exact', t`Small typing mistakes count as wrong`),
  ],
  'text_entry.expression': [
    words('answer', t`The right formula`),
    list('symbols', t`Letters that may stand in it`, t`a letter`, { as: 'words' }, ''),
    {
      name: 'form',
      label: t`In the form`,
      as: 'one',
      of: [
        ['any', t`any`],
        ['expanded', t`expanded`],
        ['factorised', t`factorised`],
        ['simplified', t`simplified`],
      ],
      usual: 'any',
    },
    slips(words('answer', t`They write`)),
    label,
  ],
  choice: [options(), ...choice, partial(false)],
  hot_text: [
    rich('text', t`Text, with {{0}}, {{1}} … where the choices are`),
    options(),
    label,
    choosing,
  ],
  hotspot: [
    figure,
    options({ name: 'at', label: t`Where`, as: 'region' }),
    label,
    choosing,
    partial(false),
  ],
  slider: [
    answer,
    expression('low', t`From`),
    expression('high', t`To`),
    expression('step', t`In steps of`),
    ...near,
    answerSlips,
    label,
  ],
  order: [
    list('items', t`In the right order`, t`an item`, { as: 'rich' }, ''),
    label,
    partial(false),
    list(
      'near_misses',
      t`Foreseen wrong orders`,
      t`a wrong order`,
      group(rich('item', t`They put`), rich('before', t`Before`), says),
      { item: '', before: '', says: '' },
    ),
  ],
  match: [pairs, spare, label, flag('reuse', t`One can be used several times`), partial(), mixUps],
  associate: [
    pairs,
    spare,
    label,
    partial(),
    list(
      'near_misses',
      t`Foreseen wrong pairs`,
      t`a wrong pair`,
      group(
        { name: 'pair', label: t`Pair`, as: 'tuple', of: [rich('0', t`One`), rich('1', t`Other`)] },
        says,
      ),
      { pair: ['', ''], says: '' },
    ),
  ],
  inline_choice: [
    gapText,
    list(
      'gaps',
      t`Gaps`,
      t`a gap`,
      group(
        list('choices', t`Choices`, t`a choice`, { as: 'rich' }, ''),
        rich('right', t`The right one`),
      ),
      { choices: ['', ''], right: '' },
    ),
    label,
    partial(),
    mixUps,
  ],
  gap_match: [
    gapText,
    list('gaps', t`Right words, in the order of the gaps`, t`a word`, { as: 'rich' }, ''),
    spare,
    label,
    partial(),
    mixUps,
  ],
  graphic_gap_match: [
    figure,
    list(
      'gaps',
      t`Places on the figure`,
      t`a place`,
      group(rich('token', t`What belongs there`), words('name', t`What the place is called`), {
        name: 'at',
        label: t`Where`,
        as: 'region',
      }),
      { at: { circle: [80, 80, 20] }, name: '', token: '' },
    ),
    spare,
    label,
    partial(),
    mixUps,
  ],
  table_entry: [{ name: 'rows', label: t`Table`, as: 'table' }, label, partial()],
  select_point: [figure, ...plane],
  position_object: [words('object', t`What is placed`), figure, ...plane],
  graph: [
    {
      name: 'draws',
      label: t`What is drawn`,
      as: 'one',
      of: [
        ['arrows', t`arrows, each from the end of the one before`],
        ['line', t`a line through points`],
        ['tide', t`a tide curve`],
      ],
      usual: 'arrows',
    },
    {
      name: 'start',
      label: t`Begins at`,
      as: 'tuple',
      of: [expression('0', t`Across`), expression('1', t`Up`)],
    },
    figure,
    ...plane,
  ],
  grid_shading: [
    answer,
    number('rows', t`Rows`),
    number('columns', t`Columns`),
    answerSlips,
    label,
  ],
  odd_one_out: [
    list(
      'items',
      t`Items`,
      t`an item`,
      group(rich('text', t`Item`), flag('odd', t`The one that does not belong`), says),
      { text: '' },
    ),
    list(
      'reasons',
      t`Reasons`,
      t`a reason`,
      group(rich('text', t`Reason`), flag('right', t`The right one`), says),
      { text: '' },
    ),
    label,
  ],
  extended_text: [
    ...written,
    {
      name: 'words',
      label: t`How long`,
      as: 'group',
      of: [number('least', t`At least, in words`), number('most', t`At most, in words`)],
    },
  ],
  drawing: written,
  upload: written,
}

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

export const kindWords = (kind: string): string => STARTS[kind.replace('text_entry.', '')] ?? kind
