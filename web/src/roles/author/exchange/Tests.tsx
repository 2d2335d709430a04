import { t } from '@lingui/core/macro'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { Check } from '../../../ui/Check'
import { Problem } from '../../../ui/Field'
import { TextLink } from '../../../ui/TextLink'
import { keys } from '../keys'
import { chooseTest, type Import } from './queries'

interface Props {
  course: string
  found: Import
  closed: boolean
}

/** The tests of a package: what each becomes, and what of it is not kept. */
export function Tests({ course, found, closed }: Props) {
  const cache = useQueryClient()
  const choose = useMutation({
    mutationFn: ({ number, skip }: { number: number; skip: boolean }) =>
      chooseTest(course, found.id, number, skip),
    onSuccess: () => cache.invalidateQueries({ queryKey: keys.import(course, found.id) }),
  })
  return (
    <section aria-labelledby="tests" className="mt-6">
      <h2 id="tests" className="text-xl">{t`Tests in it`}</h2>
      {!closed && (
        <p className="max-w-3xl text-ink-2">{t`They are set up once their questions are published. Nobody is given them until a tutor assigns them.`}</p>
      )}
      <ul className="mt-2 grid gap-2">
        {found.tests.map((one) => (
          <li key={one.number} className="rounded-box bg-sheet p-4">
            <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
              <span className="max-w-full text-sm break-all text-ink-2">{one.path}</span>
              <span className="min-w-0 flex-1 font-semibold">{one.title}</span>
              <span className="tabular-nums">
                {t`Sections: ${one.sections}, questions: ${one.questions}`}
              </span>
              {one.made !== null && (
                <TextLink to={`/author/tests/${course}/${one.made}`}>{t`Open`}</TextLink>
              )}
            </div>
            {one.refused ? (
              <p className="mt-1 text-wrong">{t`It can’t be taken in: ${one.refused}.`}</p>
            ) : (
              !closed && (
                <Check
                  on={!one.skip}
                  set={(on) => choose.mutate({ number: one.number, skip: !on })}
                >
                  {t`Set up “${one.title}” too`}
                </Check>
              )
            )}
            {one.notes.length > 0 && (
              <ul className="mt-1 list-disc pl-5 text-ink-2">
                {one.notes.map((says) => (
                  <li key={says} className="break-words">
                    {t`Not kept: ${says}.`}
                  </li>
                ))}
              </ul>
            )}
          </li>
        ))}
      </ul>
      <Problem error={choose.error} />
    </section>
  )
}
