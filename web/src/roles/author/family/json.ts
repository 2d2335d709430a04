import { t } from '@lingui/core/macro'
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

export const isClock = (text: string) => /^\d{1,2}:\d{2}$/.test(text)
export const isWord = (text: string) => !/^\d/.test(text)

/** What a number, time or word that is to vary may be, to begin with. */
export function variableFor(text: string): Things {
  if (isWord(text)) return { pick: [text] }
  if (!isClock(text)) return { range: rangeAround(text) }
  const [hours = 0, minutes = 0] = text.split(':').map(Number)
  const at = 60 * hours + minutes
  return { range: [Math.max(0, at - 120), Math.min(1435, at + 120), 5] }
}

/** What stands in a text for a variable, written as its number was. */
export function slotFor(name: string, text: string): string {
  if (isClock(text)) return `[[clock(${name})]]`
  if (isWord(text) || decimals(text) === 0) return `[[${name}]]`
  return `[[fixed(${name}, ${decimals(text)})]]`
}

// Words that say nothing of the number they stand before.
const EMPTY_WORDS = new Set(
  t`does with from have your then than that this when what into after`.split(' '),
)

/** A name for a number that is to vary: the last word before it that says something. */
export function nameFor(before: string, taken: string[]): string {
  const words = before
    .normalize('NFKD')
    .replace(/\[\[[\s\S]*?\]\]|[^\p{L}\p{N}\s]/gu, ' ')
    .toLowerCase()
    .match(/\b[a-z][a-z0-9]{3,19}\b/g)
  const stem = words?.filter((word) => !EMPTY_WORDS.has(word)).at(-1) ?? 'number'
  let name = stem
  for (let next = 2; taken.includes(name); next++) name = `${stem}${next}`
  return name
}
