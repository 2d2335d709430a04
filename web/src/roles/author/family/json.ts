import type { Json } from '../../../account/merging'
import type { Filled } from './chips'

export type Given = Json | undefined
export type Things = { [key: string]: Given }

/** A value as it stands in a field. */
export const textOf = (value: Given): string =>
  value === undefined || value === null ? '' : String(value)

/** What is typed where a number, yes or no, or an expression may stand. */
export function typedNumber(text: string): Given {
  const plain = text.trim()
  if (plain === '') return undefined
  if (/^-?(?:0|[1-9]\d*)(?:\.\d+)?$/.test(plain)) return Number(plain)
  if (plain === 'yes' || plain === 'true') return true
  if (plain === 'no' || plain === 'false') return false
  return text
}

/** A copy with a value put in its place, or taken out. */
export function put(all: Things, name: string, value: Given): Things {
  if (value === undefined) {
    const { [name]: _, ...rest } = all
    return rest
  }
  return { ...all, [name]: value }
}

/** What an expression gives; nothing for a plain number, which says it itself. */
export const filledOf = (filled: Filled, value: Given): string | undefined =>
  typeof value === 'string' ? filled.get(value) : undefined

/** How many values a range has, if its ends and step are numbers. */
export function valuesOf(range: Given): number | null {
  if (!Array.isArray(range) || !range.every((one) => typeof one === 'number')) return null
  const [low = 0, high = 0, step = 1] = range as number[]
  return step > 0 && high >= low ? Math.floor((high - low) / step + 1e-9) + 1 : null
}

const decimals = (number: string) => number.split('.')[1]?.length ?? 0

/** A range around a number as it is written: five steps to each side, none below nought. */
export function rangeAround(number: string): [number, number, number] {
  const step = 10 ** -decimals(number)
  const value = Number(number)
  const round = (one: number) => Number(one.toFixed(decimals(number)))
  return [round(Math.max(step, value - 5 * step)), round(value + 5 * step), step]
}

/** What stands in a text for a variable, with as many decimals as its number was written with. */
export const slotFor = (name: string, number: string) =>
  decimals(number) === 0 ? `[[${name}]]` : `[[fixed(${name}, ${decimals(number)})]]`

/** A name for a number that is to vary: the word before it, if no other has it. */
export function nameFor(before: string, taken: string[]): string {
  const word = before
    .normalize('NFKD')
    .replace(/\[\[[\s\S]*?\]\]|[^\p{L}\p{N}\s]/gu, ' ')
    .toLowerCase()
    .match(/[a-z][a-z0-9]{2,19}(?=\s*$)/)?.[0]
  const stem = word ?? 'number'
  let name = stem
  for (let next = 2; taken.includes(name); next++) name = `${stem}${next}`
  return name
}
