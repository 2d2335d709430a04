import { t } from '@lingui/core/macro'
export type Filter<T> = [key: string, label: string, keeps: (one: T) => boolean]

/** What a filter keeps of a list; all of it for a filter that is not there. */
export const filtered = <T,>(all: T[], filters: Filter<T>[], chosen: string): T[] =>
  all.filter(filters.find(([key]) => key === chosen)?.[2] ?? (() => true))

/** Filters of a list side by side, each with how many it keeps; one that keeps none is left out. */
export function FilterRow<T>({
  all,
  filters,
  chosen,
  onChoose,
  className = '',
}: {
  all: T[]
  filters: Filter<T>[]
  chosen: string
  onChoose: (key: string) => void
  className?: string
}) {
  const shown = filters
    .map(([key, label, keeps]) => ({ key, label, count: all.filter(keeps).length }))
    .filter(({ key, count }) => count > 0 || key === chosen)
  return (
    <fieldset className={`flex flex-wrap gap-1 ${className}`}>
      <legend className="sr-only">{t`Show`}</legend>
      {shown.map(({ key, label, count }) => (
        <button
          key={key}
          type="button"
          aria-pressed={chosen === key}
          onClick={() => onChoose(key)}
          className={`min-h-9 rounded-md px-2.5 ${chosen === key ? 'bg-deep text-on-deep' : 'text-ink-2 hover:bg-rail'}`}
        >
          {label} {count}
        </button>
      ))}
    </fieldset>
  )
}
