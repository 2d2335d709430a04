import { t } from '@lingui/core/macro'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useKept } from '../../../account/useKept'
import type { Schemas } from '../../../api/client'
import { keys } from '../../../api/keys'
import { Button } from '../../../ui/Button'
import { Problem, TextField } from '../../../ui/Field'
import { Sheet } from '../../../ui/Sheet'
import { Loaded } from '../../../ui/states'
import { counted } from '../../../ui/words'
import { reopenQuery, watchCalls } from './queries'

type Sitting = Schemas['SittingOut']
type Sitter = Sitting['learners'][number]

/** What is about to be done, for all who sit or for one. */
export interface Step {
  kind: 'pause' | 'time' | 'reopen'
  sitter: Sitter | null
}

const TITLES = { pause: t`Pause`, time: t`More time`, reopen: t`Reopen` }
const DO = { pause: t`Pause it`, time: t`Give more time`, reopen: t`Reopen it` }

interface Props {
  group: number
  assignment: number
  sitting: Sitting
  /** Whether it is for every group that has the test. */
  together: boolean
  onStep: (step: Step) => void
}

/** For all who sit: pause, resume, more time. */
export function WatchBar({ group, assignment, sitting, together, onStep }: Props) {
  const resume = useStep(group, assignment, () =>
    watchCalls(group, assignment, together).resume(null),
  )
  const count = (...states: Sitter['state'][]) =>
    sitting.learners.filter((one) => states.includes(one.state)).length
  const going = count('working', 'away')
  const paused = count('paused')
  if (going + paused === 0) return null
  return (
    <section aria-label={t`For everyone taking the test`} className="mt-4 flex flex-wrap gap-3">
      {going > 0 && (
        <Button onClick={() => onStep({ kind: 'pause', sitter: null })}>{t`Pause the test`}</Button>
      )}
      {paused > 0 && (
        <Button kind="strong" disabled={resume.isPending} onClick={() => resume.mutate()}>
          {t`Resume for ${counted(paused, 'learner')}`}
        </Button>
      )}
      <Button
        onClick={() => onStep({ kind: 'time', sitter: null })}
      >{t`Give everyone more time`}</Button>
      <Problem error={resume.error} />
    </section>
  )
}

function useStep(group: number, assignment: number, act: () => Promise<Sitting>) {
  const cache = useQueryClient()
  return useMutation({
    mutationFn: act,
    onSuccess: (found) => cache.setQueryData(keys.sitting(group, assignment), found),
  })
}

/** The reason, and the minutes where there are any, before it is done. */
export function StepSheet({
  group,
  assignment,
  step,
  together,
  onClose,
}: {
  group: number
  assignment: number
  step: Step
  together: boolean
  onClose: () => void
}) {
  const { kind, sitter } = step
  const place = `sitting:${assignment}:${kind}:${sitter?.attempt ?? 'all'}`
  const kept = useKept(place, () => ({ why: '', minutes: kind === 'time' ? 5 : 0 }))
  const { why, minutes } = kept.value
  const attempts = sitter?.attempt ? [sitter.attempt] : null
  const calls = watchCalls(group, assignment, together && attempts === null)
  const save = useStep(group, assignment, () => {
    if (kind === 'pause') return calls.pause({ attempts, why })
    if (kind === 'time') return calls.time({ attempts, why, minutes })
    return calls.reopen(sitter?.attempt ?? 0, { why, minutes })
  })
  return (
    <Sheet
      open
      onOpenChange={onClose}
      title={`${TITLES[kind]}: ${sitter?.name ?? t`everyone taking the test`}`}
    >
      <form
        className="mt-4 grid gap-4"
        onSubmit={(event) => {
          event.preventDefault()
          save.mutate(undefined, {
            onSuccess: () => {
              kept.saved({ why: '', minutes })
              onClose()
            },
          })
        }}
      >
        {kind === 'reopen' && <Before group={group} assignment={assignment} sitter={sitter} />}
        {kind === 'pause' && (
          <p className="text-ink-2">{t`The clock stops and the questions are hidden. Nobody loses time: the closing time moves by the length of the pause. After 24 hours the pause ends by itself.`}</p>
        )}
        {kind === 'time' && (
          <p className="text-ink-2">{t`This adds time to the part each learner is working on, but not past the closing time.`}</p>
        )}
        {kind !== 'pause' && (
          <TextField
            label={kind === 'time' ? t`Extra minutes` : t`Extra minutes, on top of what was left`}
            type="number"
            required
            min={kind === 'time' ? 1 : 0}
            max={600}
            fieldWidth="w-28"
            value={minutes}
            onText={(text) => kept.set({ why, minutes: Number(text) })}
          />
        )}
        <TextField
          label={t`Reason (the learner reads this)`}
          required
          minLength={3}
          maxLength={200}
          value={why}
          onText={(text) => kept.set({ why: text, minutes })}
        />
        <Button
          type="submit"
          kind="strong"
          className="justify-self-start"
          disabled={save.isPending}
        >
          {DO[kind]}
        </Button>
        <Problem error={save.error} />
      </form>
    </Sheet>
  )
}

type Of = Pick<Step, 'sitter'>

/** What the learner of an attempt has been told since it was handed in. */
function Before({ group, assignment, sitter }: Pick<Props, 'group' | 'assignment'> & Of) {
  const query = useQuery(reopenQuery(group, assignment, sitter?.attempt ?? 0))
  return (
    <Loaded query={query} what={t`what the learner has seen since`}>
      {(check) => (
        <div>
          {check.refused && (
            <p className="text-wrong">{t`You can’t reopen it. ${check.refused}`}</p>
          )}
          <p>
            {check.told.length > 0
              ? t`Since handing in, the learner has been able to see: ${check.told.join(', ')}. You can’t undo that.`
              : t`The learner hasn’t seen any results since handing in.`}
          </p>
          <p className="mt-1 text-ink-2">
            {check.minutes !== null && t`${check.minutes} min were left. `}
            {t`Their answers stay as they were. What was counted is set aside.`}
          </p>
        </div>
      )}
    </Loaded>
  )
}
