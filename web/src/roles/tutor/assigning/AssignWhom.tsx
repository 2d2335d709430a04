import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import type { Schemas } from '../../../api/client'
import { Check } from '../../../ui/Check'
import { MomentField } from '../../../ui/DateField'
import { TextField } from '../../../ui/Field'
import { counted } from '../../../ui/words'
import { Wrong } from '../../composing/Pick'
import { groupsQuery } from '../queries'
import type { Giving } from './assignment'

interface Props {
  group: Schemas['GroupOut']
  /** Whether it is for this group alone: what was set before is changed in it. */
  alone: boolean
  giving: Giving
  problems: Record<string, string>
  onChange: (next: Partial<Giving>) => void
}

const MANY = 12

/** The whole group, perhaps with others, or the learners that are ticked. */
export function AssignWhom({ group, alone, giving, problems, onChange }: Props) {
  const [words, setWords] = useState('')
  const members = group.learners
  const learners = giving.learners ?? []
  const wanted = words.trim().toLowerCase()
  const shown = members.filter((one) => one.name.toLowerCase().includes(wanted))
  const tick = (id: number, on: boolean) => {
    const next = on ? [...learners, id] : learners.filter((one) => one !== id)
    onChange({ learners: next, also: [] })
  }
  return (
    <fieldset className="mt-8">
      <legend className="font-heading text-xl font-semibold">{t`For whom`}</legend>
      <Check
        on={giving.learners === null}
        set={(on) => onChange({ learners: on ? null : [], also: [] })}
      >{t`the whole group, including anyone who joins later`}</Check>
      {!alone && giving.learners === null && (
        <OtherGroups group={group} giving={giving} onChange={onChange} />
      )}
      <p className="mt-2 text-ink-2">
        {learners.length > 0 ? t`Only ${counted(learners.length, 'learner')}:` : t`Or only some:`}
      </p>
      <div className={members.length > MANY ? 'max-h-64 overflow-y-auto' : ''}>
        {members.length > MANY && (
          <TextField
            label={t`Find a learner`}
            value={words}
            onText={setWords}
            className="mt-1"
            fieldWidth="w-56"
          />
        )}
        <div className="mt-1 columns-[14rem] gap-x-8">
          {shown.map((one) => (
            <Check key={one.id} on={learners.includes(one.id)} set={(on) => tick(one.id, on)}>
              {one.name}
            </Check>
          ))}
        </div>
      </div>
      {giving.learners?.length === 0 && (
        <p className="text-wrong">{t`Choose at least one learner.`}</p>
      )}
      <Wrong says={problems.learners} />
    </fieldset>
  )
}

/** Other groups of mine in the same course that get it at once. */
function OtherGroups({ group, giving, onChange }: Pick<Props, 'group' | 'giving' | 'onChange'>) {
  const all = useQuery(groupsQuery).data?.groups ?? []
  const others = all.filter((one) => one.course === group.course && one.id !== group.id)
  if (others.length === 0) return null
  return (
    <div className="ml-8 flex flex-wrap gap-x-6">
      {others.map((one) => (
        <Check
          key={one.id}
          on={giving.also.includes(one.id)}
          set={(on) =>
            onChange({
              also: on ? [...giving.also, one.id] : giving.also.filter((id) => id !== one.id),
            })
          }
        >
          {t`and ${one.title}`}
        </Check>
      ))}
    </div>
  )
}

const DATES = [
  ['opens', t`Opens`],
  ['due', t`Due`],
  ['closes', t`Closes`],
] as const

export function AssignDates({ giving, problems, onChange }: Omit<Props, 'group' | 'alone'>) {
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
