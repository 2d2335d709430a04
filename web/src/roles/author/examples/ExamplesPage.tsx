import { t } from '@lingui/core/macro'
import { useMutation } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { useNavigate } from 'react-router'
import { useKept } from '../../../account/useKept'
import { Button } from '../../../ui/Button'
import { Check } from '../../../ui/Check'
import { Problem, TextField } from '../../../ui/Field'
import { TextLink } from '../../../ui/TextLink'
import { useTitle } from '../../../ui/useTitle'
import { Pick } from '../../composing/Pick'
import { ChipText } from '../family/ChipText'
import { FamilyContext } from '../family/context'
import { nameFor } from '../family/json'
import { usePlace } from '../place'
import { Asked } from './Asked'
import { ExampleTable } from './ExampleTable'
import { Found } from './Found'
import { Marks } from './Marks'
import { EMPTY, markFor, sent, type Typed } from './marks'
import { beginFromExamples, type Formula, lookFor } from './queries'

/** A question from paper: its numbers are marked, answers given, and its formula is found. */
export default function ExamplesPage() {
  const { at, label } = usePlace()
  useTitle(t`A question from examples`)
  return (
    <main id="main" className="max-w-5xl px-5 py-6 @5xl:px-8">
      <p>
        <TextLink to={at}>{label}</TextLink>
      </p>
      <Writing />
    </main>
  )
}

function Writing() {
  const { course, topics, at, group } = usePlace()
  const kept = useKept<Typed>(`examples:${at}`, () => ({
    ...EMPTY,
    topic: topics[0]?.key ?? '',
  }))
  const typed = kept.value
  const [reply, setReply] = useState<Formula | null>(null)
  const navigate = useNavigate()
  const set = (next: Partial<Typed>) => {
    kept.set({ ...typed, ...next })
    setReply(null)
  }
  const stop = useRef<AbortController>(null)
  const look = useMutation({
    mutationFn: (now: Typed) => {
      stop.current = new AbortController()
      return lookFor(course, sent(now), stop.current.signal)
    },
    onSuccess: (found, now) => {
      setReply(found)
      if (found.state === 'asks') kept.set({ ...now, rows: [...answered(now), asked(now, found)] })
      if (found.state === 'found') kept.set({ ...now, formula: found.fits[0]?.formula ?? '' })
    },
  })
  const begin = useMutation({
    mutationFn: () => {
      const { title, topic, formula } = typed
      return beginFromExamples(course, { ...sent(typed), title, topic, formula, group })
    },
    onSuccess: ({ key }) => {
      kept.saved(EMPTY)
      navigate(`${at}/${key}`)
    },
  })
  const vary = (written: string, before: string, whole: (slot: string) => string) => {
    const name = nameFor(
      before,
      typed.marks.map((mark) => mark.name),
    )
    const [first = { values: {}, answer: '' }, ...rest] = typed.rows
    set({
      text: whole(`[[${name}]]`),
      marks: [...typed.marks, markFor(name, written)],
      rows: [{ ...first, values: { ...first.values, [name]: written } }, ...rest],
    })
  }
  const ready = typed.marks.length > 0 && answered(typed).length > 0
  const asking = reply?.state === 'asks'
  const last = typed.rows.length - 1
  const shown = asking ? typed.rows[last]?.values : typed.rows[0]?.values
  return (
    <FamilyContext
      value={{
        filled: new Map(Object.entries(shown ?? {})),
        problemAt: () => undefined,
        seenPart: () => undefined,
        choose: () => undefined,
      }}
    >
      <Heading reply={reply} examples={answered(typed).length} />
      <div className="mt-3">
        <ChipText
          label={t`The question`}
          value={typed.text}
          onChange={(text) => set({ text })}
          lines
          large
          {...(asking ? {} : { onVary: vary })}
        />
      </div>
      {asking && reply ? (
        <Asked
          typed={typed}
          reply={reply}
          pending={look.isPending}
          onAnswer={(answer) => {
            const rows = typed.rows.map((row, i) => (i === last ? { ...row, answer } : row))
            const next = { ...typed, rows }
            kept.set(next)
            look.mutate(next)
          }}
        />
      ) : (
        <>
          <Marks typed={typed} set={set} />
          <ExampleTable typed={typed} set={set} />
          <Check
            on={typed.direction}
            set={(direction) => set({ direction })}
          >{t`The answer is a direction: 360° is 0°`}</Check>
          {reply?.state !== 'found' && (
            <p className="mt-3">
              <Button
                kind="strong"
                disabled={!ready || look.isPending}
                onClick={() => look.mutate(typed)}
              >
                {look.isPending ? t`Looking…` : t`Look for the formula`}
              </Button>
            </p>
          )}
        </>
      )}
      {look.isPending && (
        <p role="status" className="mt-3 flex flex-wrap items-center gap-3 text-ink-2">
          {t`Looking for a formula. It takes up to five seconds.`}
          <Button
            onClick={() => {
              look.reset()
              stop.current?.abort()
            }}
          >{t`Stop looking`}</Button>
        </p>
      )}
      <Problem error={look.error} />
      {reply && <Found typed={typed} reply={reply} />}
      {(reply?.state === 'found' || reply?.state === 'none') && (
        <form
          className="mt-6 grid max-w-xl gap-4"
          onSubmit={(event) => {
            event.preventDefault()
            begin.mutate()
          }}
        >
          <TextField
            label={t`The formula. You can write your own.`}
            value={typed.formula}
            required
            spellCheck={false}
            fieldWidth="font-mono w-full"
            onText={(formula) => kept.set({ ...typed, formula })}
          />
          <TextField
            label={t`Title, for lists`}
            value={typed.title}
            minLength={3}
            maxLength={60}
            required
            onText={(title) => kept.set({ ...typed, title })}
          />
          <Pick
            label={t`Topic`}
            options={topics.map((one) => [one.key, one.title])}
            value={typed.topic}
            onChange={(topic) => kept.set({ ...typed, topic })}
          />
          <p>
            <Button
              type="submit"
              kind="strong"
              disabled={begin.isPending}
            >{t`Make it a question`}</Button>
          </p>
          <Problem error={begin.error} />
        </form>
      )}
    </FamilyContext>
  )
}

function Heading({ reply, examples }: { reply: Formula | null; examples: number }) {
  const says =
    reply?.state === 'asks'
      ? t`What is the answer for these numbers?`
      : reply?.state === 'found'
        ? t`This formula explains every example`
        : reply?.state === 'none'
          ? t`No formula explains these examples`
          : t`A question from examples`
  useEffect(() => {
    if (reply) document.getElementById('examples-heading')?.focus()
  }, [reply])
  return (
    <>
      <p className="text-ink-2">
        {reply?.state === 'asks'
          ? examples === 1
            ? t`More than one formula explains your example.`
            : t`More than one formula explains all ${examples} examples.`
          : reply
            ? ''
            : t`Type a question with its numbers, mark what may change, and give its answer.`}
      </p>
      <h1 id="examples-heading" tabIndex={-1} className="text-3xl">
        {says}
      </h1>
    </>
  )
}

const answered = (typed: Typed) => typed.rows.filter(({ answer }) => answer.trim() !== '')

function asked(typed: Typed, { ask }: Formula) {
  const used = typed.marks.filter(({ name }) => typed.text.includes(`[[${name}]]`))
  const values = Object.fromEntries(used.map(({ name }, i) => [name, ask[i] ?? '']))
  return { values, answer: '' }
}
