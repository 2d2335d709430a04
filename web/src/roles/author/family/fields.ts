import { t } from '@lingui/core/macro'
import type { Json } from '../../../account/merging'
import type { Things } from './json'
import type { As, Field } from './kinds'

export const rich = (name: string, label: string): Field => ({ name, label, as: 'rich' })
export const words = (name: string, label: string): Field => ({ name, label, as: 'words' })
export const expression = (name: string, label: string): Field => ({
  name,
  label,
  as: 'expression',
})
export const number = (name: string, label: string): Field => ({ name, label, as: 'number' })
export const flag = (name: string, label: string, usual = false): Field => ({
  name,
  label,
  as: 'flag',
  usual,
})
export const list = (
  name: string,
  label: string,
  one: string,
  of: As,
  fresh: Json,
  add = t`Add ${one}`,
): Field => ({ name, label, as: 'list', of, add, fresh })
export const group = (...of: Field[]): As => ({ as: 'group', of })
export const tuple = (...of: Field[]): As => ({ as: 'tuple', of })

export const label = words('label', t`Label beside it`)
export const says = rich('says', t`Feedback`)
export const partial = (usual = true) =>
  flag('partial', t`Partial marks for a partly right answer`, usual)
export const figure: Field = { name: 'figure', label: t`Figure`, as: 'figure' }

export const slips = (what: Field): Field =>
  list(
    'near_misses',
    t`Expected wrong answers`,
    t`a wrong answer`,
    group(what, says),
    { [what.name]: '', says: '' },
    t`Add an expected wrong answer`,
  )
export const mixUps: Field = list(
  'near_misses',
  t`Expected mix-ups`,
  t`a mix-up`,
  group(words('place', t`In the place of`), rich('token', t`They put`), says),
  { place: '', token: '', says: '' },
)
export const spare = list('spare', t`Extra ones that don’t fit`, t`one`, { as: 'rich' }, '')
export const gapText = rich('text', t`Text, with {{0}}, {{1}} … where the gaps are`)
const choices = (fresh: Things, ...more: Field[]): Field =>
  list(
    'choices',
    t`Choices`,
    t`a choice`,
    group(
      rich('text', t`Choice`),
      { name: 'right', label: t`This choice is`, as: 'truth' },
      says,
      ...more,
    ),
    { text: '', right: false, ...fresh } as Json,
  )
export const options = () => choices({})
export const region: Field = { name: 'at', label: t`Where`, as: 'region' }
export const somewhere = { at: { circle: [80, 80, 20] } }
export const placed = choices(somewhere, region)
export const choosing: Field = {
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
export const choice: Field[] = [label, choosing, flag('shuffle', t`Shuffle the order`, true)]
export const written: Field[] = [
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
export const axis = (name: string, label: string): Field => ({
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
export const plane: Field[] = [
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
    t`Expected wrong places`,
    t`a wrong place`,
    group(expression('x', t`Across`), expression('y', t`Up`), says),
    { x: 0, y: 0, says: '' },
  ),
]
export const pairs = list(
  'pairs',
  t`Pairs that belong together`,
  t`a pair`,
  tuple(rich('0', t`One`), rich('1', t`Other`)),
  ['', ''],
)
export const answer = expression('answer', t`The answer`)
export const answerSlips = slips(expression('answer', t`They get`))
export const near: Field[] = [
  expression('tolerance', t`Right within`),
  words('unit', t`Unit`),
  number('digits', t`Decimals shown`),
]
