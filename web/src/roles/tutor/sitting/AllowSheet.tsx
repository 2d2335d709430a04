import { t } from '@lingui/core/macro'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useKept } from '../../../account/useKept'
import type { Schemas } from '../../../api/client'
import { keys } from '../../../api/keys'
import { Button } from '../../../ui/Button'
import { MomentField } from '../../../ui/DateField'
import { Input, Labelled, Problem } from '../../../ui/Field'
import { KeptNote } from '../../../ui/KeptNote'
import { Sheet } from '../../../ui/Sheet'
import { capital, moment } from '../../../ui/words'
import { Pick } from '../../composing/Pick'
import { allowLearner } from './queries'

type Sitter = Schemas['SittingOut']['learners'][number]
type Allowance = NonNullable<Sitter['allowance']>

const TIMES: [string, string][] = [
  ['1', t`none`],
  ['1.1', t`1.1 times`],
  ['1.25', t`1.25 times`],
  ['1.5', t`1.5 times`],
  ['2', t`twice`],
]

/** What is allowed in words, with who said so and why. */
export function allowedWords(allowance: Allowance): string {
  const parts = [
    allowance.times !== 1 && t`${allowance.times} times the time`,
    allowance.minutes > 0 && t`${allowance.minutes} min more`,
    allowance.attempts > 0 &&
      t`${allowance.attempts} more ${allowance.attempts === 1 ? 'attempt' : 'attempts'}`,
    allowance.opens && t`opens ${moment(allowance.opens)}`,
    allowance.due && t`due ${moment(allowance.due)}`,
    allowance.closes && t`closes ${moment(allowance.closes)}`,
  ].filter(Boolean)
  const what = parts.length ? parts.join(', ') : t`none`
  return `${what}: ${allowance.why} (${allowance.by}, ${moment(allowance.at)})`
}

/** Allow one learner more time, more attempts or other dates, with the reason. */
export function AllowSheet({
  group,
  assignment,
  sitter,
  onClose,
}: {
  group: number
  assignment: number
  sitter: Sitter
  onClose: () => void
}) {
  const cache = useQueryClient()
  const before = sitter.allowance
  const place = `allow:${assignment}:${sitter.learner}`
  const kept = useKept<Schemas['AllowanceIn']>(place, () => ({
    learner: sitter.learner,
    times: before?.times ?? 1,
    minutes: before?.minutes ?? 0,
    attempts: before?.attempts ?? 0,
    opens: before?.opens,
    due: before?.due,
    closes: before?.closes,
    why: '',
  }))
  const { value: wanted } = kept
  const set = (next: Partial<Schemas['AllowanceIn']>) => kept.set({ ...wanted, ...next })
  const save = useMutation({
    mutationFn: () => allowLearner(group, assignment, wanted),
    onSuccess: (found) => {
      kept.saved(wanted)
      cache.setQueryData(keys.sitting(group, assignment), found)
      onClose()
    },
  })
  const whole = (text: string, most: number) => Math.min(most, Math.max(0, Number(text) || 0))
  return (
    <Sheet open onOpenChange={onClose} title={t`Extra time for ${sitter.name}`}>
      <KeptNote restored={kept.restored} onDiscard={kept.discard} />
      <form
        className="mt-4 grid gap-4"
        onSubmit={(event) => {
          event.preventDefault()
          save.mutate()
        }}
      >
        <div className="flex flex-wrap gap-4">
          <Pick
            label={t`Time`}
            options={TIMES}
            value={String(wanted.times)}
            onChange={(text) => set({ times: Number(text) })}
          />
          <Labelled label={t`Extra minutes`}>
            <Input
              type="number"
              min={0}
              max={600}
              className="w-28"
              value={wanted.minutes}
              onChange={(event) => set({ minutes: whole(event.target.value, 600) })}
            />
          </Labelled>
          <Labelled label={t`Extra attempts`}>
            <Input
              type="number"
              min={0}
              max={50}
              className="w-28"
              value={wanted.attempts}
              onChange={(event) => set({ attempts: whole(event.target.value, 50) })}
            />
          </Labelled>
        </div>
        <fieldset>
          <legend className="text-ink-2">{t`Different dates for this learner (leave empty to use the group’s)`}</legend>
          <div className="mt-1 flex flex-wrap gap-4">
            {(['opens', 'due', 'closes'] as const).map((name) => (
              <MomentField
                key={name}
                label={capital(name)}
                at={wanted[name]}
                usual={name === 'opens' ? '00:00' : '23:59'}
                onAt={(at) => set({ [name]: at ?? undefined })}
              />
            ))}
          </div>
        </fieldset>
        <Labelled label={t`Reason (the learner reads this)`}>
          <Input
            required
            minLength={3}
            maxLength={200}
            value={wanted.why}
            onChange={(event) => set({ why: event.target.value })}
          />
        </Labelled>
        <p className="text-ink-2">{t`Extra time applies at once, also to a test in progress.`}</p>
        <Button
          type="submit"
          kind="strong"
          className="justify-self-start"
          disabled={save.isPending}
        >{t`Save`}</Button>
        <Problem error={save.error} />
      </form>
    </Sheet>
  )
}
