import { t } from '@lingui/core/macro'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useParams } from 'react-router'
import { useKept } from '../../../account/useKept'
import type { Schemas } from '../../../api/client'
import { keys } from '../../../api/keys'
import { Button } from '../../../ui/Button'
import { Problem, TextField } from '../../../ui/Field'
import { Loaded } from '../../../ui/states'
import { TextLink } from '../../../ui/TextLink'
import { useTitle } from '../../../ui/useTitle'
import { capital, counted, day } from '../../../ui/words'
import { lookAt, signalsQuery } from '../queries'

type Signal = Schemas['SignalOut']

/** What is worth asking in a group: questions with their evidence, never verdicts. */
export default function SignalsPage() {
  const id = Number(useParams().group)
  const query = useQuery(signalsQuery(id))
  useTitle(t`To ask`)
  return (
    <main id="main" className="max-w-4xl px-5 py-8 @5xl:px-8">
      <Loaded query={query} what={t`who to talk to`}>
        {({ group, signals, looked }) => (
          <>
            <p>
              <TextLink to={`/tutor/groups/${id}`}>{group}</TextLink>
            </p>
            <h1 className="text-3xl">
              {signals.length
                ? t`${capital(counted(signals.length, 'thing'))} worth a conversation`
                : t`Nothing to ask about`}
            </h1>
            <p className="mt-1 max-w-2xl text-ink-2">{t`These are questions, not accusations: at most 2 in 100 honest learners appear here for each of them in a term, quick, forgetful and guessing ones included. Ask, listen and note what you found out. It then stays quiet unless new answers bring it back. Answers to a test are compared only where twenty learners or more sat it: with fewer it’s too few to tell.`}</p>
            <ul className="mt-6 grid gap-6">
              {signals.map((one) => (
                <Asked
                  key={`${one.kind} ${one.assignment} ${one.whom.map((who) => who.id).join(' ')}`}
                  group={id}
                  signal={one}
                />
              ))}
            </ul>
            {looked.length > 0 && (
              <section className="mt-9">
                <h2 className="text-xl">{t`Save note`}</h2>
                <ul className="mt-1">
                  {looked.map((one) => (
                    <li key={one.at} className="border-b border-line py-2.5">
                      <strong>{one.whom.map((who) => who.name).join(' and ')}</strong>: {one.note}
                      <span className="block text-ink-2">
                        {KINDS[one.kind]}, {one.by}, {day(one.at)}
                      </span>
                    </li>
                  ))}
                </ul>
              </section>
            )}
          </>
        )}
      </Loaded>
    </main>
  )
}

const KINDS: Record<Signal['kind'], string> = {
  rapid: t`Answers too fast to have read the question`,
  fast: t`Very fast, and right`,
  second: t`Right only at the second try`,
  misfit: t`Easy ones missed, harder ones right`,
  same: t`Same answers`,
}

function Asked({ group, signal }: { group: number; signal: Signal }) {
  const whom = signal.whom.map((who) => who.id)
  const place = `signal:${group}:${signal.kind}:${signal.assignment ?? ''}:${whom.join('-')}`
  const { value: note, set: setNote, saved } = useKept(place, () => '')
  const cache = useQueryClient()
  const look = useMutation({
    mutationFn: () =>
      lookAt(group, {
        kind: signal.kind,
        whom,
        assignment: signal.assignment,
        note,
      }),
    onSuccess: (next) => {
      saved('')
      cache.setQueryData(keys.signals(group), next)
      void cache.invalidateQueries({ queryKey: ['learner'] })
    },
  })
  const names = signal.whom.map((who) => who.name).join(t` and `)
  return (
    <li className="rounded-box bg-sheet p-5">
      <h2 className="flex flex-wrap gap-x-4 text-lg">
        {signal.whom.map((who) => (
          <TextLink key={who.id} to={`/tutor/learners/${who.id}/record`}>
            {who.name}
          </TextLink>
        ))}
      </h2>
      <p className="mt-1 text-[1.05rem]">{signal.question}</p>
      <p className="mt-2 text-ink-2">{signal.evidence}</p>
      <p className="mt-1 text-ink-2">{t`It could also be: ${signal.perhaps.join('; ')}.`}</p>
      {signal.worked_out && (
        <details className="mt-1 text-sm text-ink-2">
          <summary className="cursor-pointer">{t`How this was worked out`}</summary>
          {signal.worked_out}
        </details>
      )}
      <form
        className="mt-4 flex flex-wrap items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault()
          look.mutate()
        }}
      >
        <TextField
          label={t`What did you find out?`}
          className="min-w-0 flex-1"
          required
          maxLength={400}
          value={note}
          onText={setNote}
        />
        <Button type="submit" disabled={look.isPending}>
          {t`Save note`}
          <span className="sr-only">: {names}</span>
        </Button>
        <Problem error={look.error} />
      </form>
    </li>
  )
}
