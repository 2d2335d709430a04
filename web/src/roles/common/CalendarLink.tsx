import { t } from '@lingui/core/macro'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, call } from '../../api/client'
import { keys } from '../../api/keys'
import { Button } from '../../ui/Button'
import { fieldClass, Problem } from '../../ui/Field'
import { calendarQuery } from './queries'

/** The address of the private calendar, made, made anew and ended. */
export function CalendarLink() {
  const { data } = useQuery(calendarQuery)
  const cache = useQueryClient()
  const onSuccess = (next: { address: string | null }) => cache.setQueryData(keys.calendar, next)
  const make = useMutation({ mutationFn: () => call(api.POST('/api/calendar')), onSuccess })
  const end = useMutation({ mutationFn: () => call(api.DELETE('/api/calendar')), onSuccess })
  const address = data?.address ? `${window.location.origin}${data.address}` : null
  return (
    <section>
      <h2 className="text-xl">{t`My dates in a calendar`}</h2>
      <p className="mt-1 mb-3 max-w-2xl text-ink-2">{t`Checks, postponed tasks and exams of all your courses. Anyone with the address can read them, so keep it private.`}</p>
      {address && (
        <input
          readOnly
          aria-label={t`Address of the calendar`}
          className={`${fieldClass} mb-3 w-full max-w-2xl`}
          value={address}
          onFocus={(event) => event.target.select()}
        />
      )}
      <div className="flex flex-wrap gap-3">
        <Button disabled={make.isPending} onClick={() => make.mutate()}>
          {address ? t`Make a new address` : t`Make an address`}
        </Button>
        {address && (
          <Button
            kind="quiet"
            disabled={end.isPending}
            onClick={() => end.mutate()}
          >{t`Stop it`}</Button>
        )}
      </div>
      <Problem error={make.error ?? end.error} />
    </section>
  )
}
