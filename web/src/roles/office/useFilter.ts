import { useSearchParams } from 'react-router'

/** A filter that stands in the address, so that going back finds the same list. */
export function useFilter() {
  const [query, setQuery] = useSearchParams()
  const get = (name: string) => query.get(name) ?? ''
  const set = (next: Record<string, string>) => {
    const changed = new URLSearchParams(query)
    for (const [name, value] of Object.entries(next)) {
      if (value) changed.set(name, value)
      else changed.delete(name)
    }
    setQuery(changed, { replace: true })
  }
  return { get, set }
}
