import { t } from '@lingui/core/macro'
import type { Schemas } from '../../../api/client'
import { Button } from '../../../ui/Button'
import { Problem } from '../../../ui/Field'
import { counted } from '../../../ui/words'
import { asTask, type Giving } from './assignment'

export function SaveButton(props: {
  save: { error: Error | null; isPending: boolean; save: () => void }
  ready: boolean
  words: string
}) {
  return (
    <>
      <Problem error={props.save.error} />
      <Button
        kind="strong"
        className="mt-4"
        disabled={!props.ready || props.save.isPending}
        onClick={() => props.save.save()}
      >
        {props.words}
      </Button>
    </>
  )
}

/** A preview: for how many learners, and how long it takes. */
export function Says({
  giving,
  check,
  task,
  titles,
}: {
  giving: Giving
  check: Schemas['GiveCheckOut'] | undefined
  task: Schemas['TaskCheckOut'] | undefined
  titles: Map<number, string>
}) {
  if (giving.kind === 'test') {
    if (giving.test === null || !check)
      return (
        <p className="mt-1 text-ink-2">{t`Choose a test, and you’ll see how long it takes.`}</p>
      )
    return (
      <p className="mt-1">
        {titles.get(giving.test)}
        {t`, for ${counted(check.learners, 'learner')}. About ${check.minutes} min, ${check.says}.`}
      </p>
    )
  }
  if (!asTask(giving) || !task)
    return (
      <p className="mt-1 text-ink-2">{t`Choose the topics, and you’ll see how long it takes.`}</p>
    )
  return (
    <p className="mt-1">
      {t`${task.goal} For ${counted(task.learners, 'learner')}`}
      {task.minutes > 0 &&
        t`: about ${task.minutes} min at their usual speed${task.most > task.minutes ? t`, up to ${task.most} for the slowest` : ''}`}
      .
    </p>
  )
}
