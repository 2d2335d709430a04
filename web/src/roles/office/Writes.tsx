import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { Check } from '../../ui/Check'
import { schoolQuery } from './queries'

/** Which courses an author writes for: all of the school, or those that are ticked. */
export function Writes({
  writes,
  onChange,
}: {
  writes: string[]
  onChange: (writes: string[]) => void
}) {
  const courses = useQuery(schoolQuery).data?.courses ?? []
  return (
    <fieldset className="flex flex-wrap gap-x-6">
      <legend className="text-sm text-ink-2">
        {writes.length === 0 ? t`Writes for all courses of the school, or only for` : t`Writes for`}
      </legend>
      {courses.map(({ key, title }) => (
        <Check
          key={key}
          on={writes.includes(key)}
          set={(on) => onChange(on ? [...writes, key].sort() : writes.filter((one) => one !== key))}
        >
          {title}
        </Check>
      ))}
    </fieldset>
  )
}
