import { t } from '@lingui/core/macro'
import { Check } from '../../../ui/Check'
import { MomentField } from '../../../ui/DateField'
import { Wrong } from '../../composing/Pick'
import type { Giving } from './assignment'

interface Props {
  members: { id: number; name: string }[]
  giving: Giving
  problems: Record<string, string>
  onChange: (next: Partial<Giving>) => void
}

/** The whole group, or the learners that are ticked. */
export function AssignWhom({ members, giving, problems, onChange }: Props) {
  const { learners } = giving
  return (
    <fieldset className="mt-8">
      <legend className="font-heading text-xl font-semibold">{t`For whom`}</legend>
      <Check
        on={learners === null}
        set={(on) => onChange({ learners: on ? null : members.map((one) => one.id) })}
      >{t`the whole group, including anyone who joins later`}</Check>
      {learners !== null && (
        <div className="mt-1 columns-[14rem] gap-x-8">
          {members.map((one) => (
            <Check
              key={one.id}
              on={learners.includes(one.id)}
              set={(on) =>
                onChange({
                  learners: on ? [...learners, one.id] : learners.filter((id) => id !== one.id),
                })
              }
            >
              {one.name}
            </Check>
          ))}
        </div>
      )}
      {learners?.length === 0 && <p className="text-wrong">{t`Choose at least one learner.`}</p>}
      <Wrong says={problems.learners} />
    </fieldset>
  )
}

const DATES = [
  ['opens', t`Opens`],
  ['due', t`Due`],
  ['closes', t`Closes`],
] as const

export function AssignDates({ giving, problems, onChange }: Omit<Props, 'members'>) {
  return (
    <fieldset className="mt-8">
      <legend className="font-heading text-xl font-semibold">{t`Dates`}</legend>
      <div className="mt-2 flex flex-wrap gap-4">
        {DATES.map(([name, label]) => (
          <div key={name}>
            <MomentField
              label={t`${label} (optional)`}
              at={giving[name]}
              usual={name === 'opens' ? '00:00' : '23:59'}
              onAt={(at) => onChange({ [name]: at })}
            />
            {problems[name] && <p className="mt-1 max-w-60 text-wrong">{problems[name]}</p>}
          </div>
        ))}
      </div>
    </fieldset>
  )
}
