import { useQuery } from '@tanstack/react-query'
import { useEffect, useMemo, useState } from 'react'
import { tryQuery, type Workbench } from './queries'
import type { Fields } from './useDraft'

/** What every field of the form knows of the version on screen, and of what is wrong. */
export function useShown(
  course: string,
  page: Workbench,
  seed: number,
  choose: (variable: string | null) => void,
  data: Fields | null,
) {
  const asked = { seed, responses: null }
  const now = useQuery({
    ...tryQuery(course, page.key, page.version, asked),
    enabled: page.versions !== null,
  }).data?.question
  // A place is drawn while something else is still missing: on the figure that was there.
  const [seen, setSeen] = useState(now)
  useEffect(() => {
    if (now) setSeen(now)
  }, [now])
  return useMemo(() => {
    const filled = new Map(page.slots.map(({ expression, shown }) => [expression, shown]))
    const names = Object.keys((data?.variables ?? {}) as object)
    return {
      filled,
      problemAt: (path: string, within = false) =>
        page.problems.find(
          ({ field }) => field === path || (within && field.startsWith(`${path}.`)),
        )?.says,
      seenPart: (id: string) => seen?.parts.find((part) => part.id === id),
      choose: (expression: string) => {
        const named = names.find((name) => new RegExp(`\\b${name}\\b`).test(expression))
        if (named) choose(named)
      },
    }
  }, [page.slots, page.problems, data?.variables, choose, seen])
}
