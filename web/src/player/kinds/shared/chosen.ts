import { t } from '@lingui/core/macro'
import type { ReactNode } from 'react'
import { linesOf } from '../../values'

interface Choosable {
  choose: number | null
  choices: { id: string }[]
}

/** What is chosen; an exact number stops there, and how many are chosen is said. */
export function useChosen(
  part: Choosable,
  value: string,
  onChange: (value: string) => void,
): { chosen: string[]; toggle: (id: string) => void; full: boolean; note: ReactNode } {
  const chosen = linesOf(value)
  const full = part.choose !== null && part.choose > 1 && chosen.length >= part.choose
  const toggle = (id: string) => {
    if (part.choose === 1) onChange(id)
    else if (chosen.includes(id)) onChange(chosen.filter((other) => other !== id).join('\n'))
    else if (!full) onChange([...chosen, id].join('\n'))
  }
  const note =
    part.choose === 1
      ? null
      : part.choose === null
        ? t`${chosen.length} chosen. There may be more than one right answer`
        : t`${chosen.length} of ${part.choose} chosen`
  return { chosen, toggle, full, note }
}

/** The value after a digit, from 1, was pressed. */
export function afterDigit(part: Choosable, value: string, digit: number): string {
  const id = part.choices[digit - 1]?.id
  if (id === undefined) return value
  if (part.choose === 1) return id
  const chosen = linesOf(value)
  if (chosen.includes(id)) return chosen.filter((other) => other !== id).join('\n')
  return part.choose !== null && chosen.length >= part.choose ? value : [...chosen, id].join('\n')
}

/** Digits that choose. */
export const digits = (part: Choosable) => part.choices.length
