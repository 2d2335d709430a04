import { t } from '@lingui/core/macro'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { Button } from '../../../ui/Button'
import { DriftBar } from '../../../ui/DriftBar'
import { Problem } from '../../../ui/Field'
import { TextLink } from '../../../ui/TextLink'
import { day } from '../../../ui/words'
import { keys } from '../keys'
import { adoptText, endTrial, type Trial, type Trials } from './queries'

// Points of a hundred that the bar reaches to on either side.
const REACH = 40

/** A trial: its two texts, by how much one helps more, and what can be done. */
export function TrialCard({ course, trial }: { course: string; trial: Trial }) {
  const cache = useQueryClient()
  const anew = (next: Trials) => cache.setQueryData(keys.trials(course), next)
  const end = useMutation({ mutationFn: () => endTrial(course, trial.id), onSuccess: anew })
  const adopt = useMutation({ mutationFn: () => adoptText(course, trial.id), onSuccess: anew })
  const of = trial.of_section
    ? `/author/course/${course}/pages/${trial.of.key}`
    : `/author/bank/${course}/${trial.of.key}`
  return (
    <article className="mt-4 rounded-box bg-sheet p-5">
      <h3 className="text-lg">
        <TextLink to={of}>{trial.name}</TextLink>
      </h3>
      <p className="mt-1 text-lg font-semibold">{trial.says}</p>
      <div className="mt-3 grid gap-4 @3xl:grid-cols-2">
        <Version
          name={trial.better === 'first' ? t`First text, better` : t`First text`}
          text={trial.first}
        />
        <Version
          name={trial.better === 'second' ? t`Second text, better` : t`Second text`}
          text={trial.second}
        />
      </div>
      {trial.effect && <Effect trial={trial} />}
      <p className="mt-3 text-ink-2">
        {trial.ended
          ? t`Begun by ${trial.by} on ${day(trial.began_at)}.`
          : t`Begun by ${trial.by} on ${day(trial.began_at)}. It ends by itself, at the latest on ${day(trial.until)}.`}
      </p>
      <div className="mt-3 flex flex-wrap items-center gap-4">
        {!trial.ended && (
          <Button disabled={end.isPending} onClick={() => end.mutate()}>{t`End it now`}</Button>
        )}
        {trial.better === 'second' && !trial.adopted && (
          <Button kind="strong" disabled={adopt.isPending} onClick={() => adopt.mutate()}>
            {trial.of_section ? t`Use the second text` : t`Make a draft with the second text`}
          </Button>
        )}
        {trial.adopted && (
          <span>
            {trial.of_section
              ? t`The second text is in the study page.`
              : t`The second text was put into a draft.`}
          </span>
        )}
      </div>
      <Problem error={end.error ?? adopt.error} />
    </article>
  )
}

function Version({ name, text }: { name: string; text: string }) {
  return (
    <div className="min-w-0">
      <h4 className="text-sm text-ink-2">{name}</h4>
      <p className="mt-1 max-h-48 overflow-y-auto rounded-lg bg-sky px-3 py-2 whitespace-pre-wrap">
        {text}
      </p>
    </div>
  )
}

/** The effect on one line: in the middle no difference, the bar where it lies with 90 %. */
function Effect({ trial }: { trial: Trial }) {
  const { points, low, high } = trial.effect ?? { points: 0, low: 0, high: 0 }
  const at = (value: number) => Math.min(100, Math.max(0, 50 + (50 * value) / REACH))
  const signed = (value: number) => (value > 0 ? `+${Math.round(value)}` : `${Math.round(value)}`)
  const says = t`The second text makes a difference of ${signed(points)} points, probably between ${signed(low)} and ${signed(high)}`
  return (
    <div className="mt-4 max-w-2xl">
      <div className="flex justify-between text-sm text-ink-2">
        <span>{t`the first helps more`}</span>
        <span>{t`no difference`}</span>
        <span>{t`the second helps more`}</span>
      </div>
      <DriftBar
        name={trial.name}
        says={says}
        reading={{
          level: at(points),
          middle: at(points),
          low: at(low),
          high: at(high),
          target: 50,
        }}
      />
      <p className="text-sm text-ink-2 tabular-nums">
        {t`${signed(points)} points of 100, probably between ${signed(low)} and ${signed(high)}`}
      </p>
    </div>
  )
}
