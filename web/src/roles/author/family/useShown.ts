import { useMemo } from 'react'
import type { Workbench } from './queries'
import type { Fields } from './useDraft'

/** What every field of the form knows of the version on screen, and of what is wrong. */
export function useShown(
  page: Workbench,
  choose: (variable: string | null) => void,
  data: Fields | null,
) {
  return useMemo(() => {
    const filled = new Map(page.slots.map(({ expression, shown }) => [expression, shown]))
    const names = Object.keys((data?.variables ?? {}) as object)
    return {
      filled,
      problemAt: (path: string, within = false) =>
        page.problems.find(
          ({ field }) => field === path || (within && field.startsWith(`${path}.`)),
        )?.says,
      choose: (expression: string) => {
        const named = names.find((name) => new RegExp(`\\b${name}\\b`).test(expression))
        if (named) choose(named)
      },
    }
  }, [page.slots, page.problems, data?.variables, choose])
}
