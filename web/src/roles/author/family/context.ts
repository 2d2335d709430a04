import { createContext, useContext } from 'react'
import type { Part } from '../../../api/client'
import type { Filled } from './chips'

interface Family {
  filled: Filled
  /** What is wrong with a field, by where it lies; of a list or a group, anything within it. */
  problemAt: (path: string, within?: boolean) => string | undefined
  /** A part as learners get it in the version on screen, once it can be shown. */
  seenPart: (id: string) => Part | undefined
  /** Opens what an expression of a text stands for. */
  choose: (expression: string) => void
}

export const FamilyContext = createContext<Family>({
  filled: new Map(),
  problemAt: () => undefined,
  seenPart: () => undefined,
  choose: () => undefined,
})

/** What every field of a family's form knows of the version on screen. */
export const useFamily = () => useContext(FamilyContext)
