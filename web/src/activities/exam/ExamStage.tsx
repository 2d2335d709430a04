import { useLayoutEffect, useRef, useState } from 'react'
import type { Question, Schemas } from '../../api/client'
import { useAloud } from '../../player/aloud'
import { afterDigit } from '../../player/parts/ChoicePart'
import { QuestionView } from '../../player/QuestionView'
import { NO_WORKING } from '../../player/strokes'
import { WorkingArea } from '../../player/WorkingArea'
import { Labelled, TextArea } from '../../ui/Field'
import { Html } from '../../ui/Html'
import { useKeys } from '../../ui/useKeys'
import { ExamStrip, type Opened } from './ExamStrip'
import { MoreBelow } from './MoreBelow'
import { MoveOn } from './MoveOn'
import type { Attempt, Place, SoFar } from './queries'
import { SendOne } from './SendOne'
import type { Going } from './useAttempt'
import { useTimeInView } from './useTimeInView'

interface Props {
  attempt: Attempt
  place: Place
  going: Going
  onSent: (question: Question) => void
  onGo: (number: number) => void
  /** Forward from here without a way back; nothing where any order is free. */
  onMoveOn?: () => Promise<void>
  onCheck: () => void
  onOpen: (what: Opened) => void
}

type Responses = Record<string, string>

/** The question being worked on in a test. */
export function ExamStage(props: Props) {
  const { attempt, place, going, onSent, onGo, onMoveOn, onCheck, onOpen } = props
  const { question, number } = place
  const held = going.held[number]
  const data: SoFar = held?.data ?? place.data
  const responses: Responses = data.responses ?? {}
  const canChange = place.can_change && !question.closed && going.over === null
  const field = useRef<HTMLInputElement | null>(null)
  const heading = useRef<HTMLHeadingElement>(null)
  const asked = useRef<HTMLDivElement>(null)
  const aloud = useAloud()
  const [noting, setNoting] = useState(Boolean(data.note))
  const [striking, setStriking] = useState(Object.values(data.struck ?? {}).some((s) => s.length))
  const [working, setWorking] = useState(
    Boolean(data.working?.lines || data.working?.strokes?.length),
  )
  const [onward, setOnward] = useState(false)
  const undone = useRef<{ back: Responses[]; on: Responses[] }>({ back: [], on: [] })
  const has = (tool: Schemas['Tool']) => attempt.tools.includes(tool)
  const linear = attempt.navigation === 'linear'
  const index = attempt.places.findIndex((one) => one.number === number)
  const before = attempt.places[index - 1]
  const after = attempt.places[index + 1]

  const noteTime = useTimeInView(number, going.note)
  useLayoutEffect(() => {
    ;(field.current ?? heading.current)?.focus({ preventScroll: true })
    window.scrollTo(0, 0)
  }, [])

  const change = (next: Partial<SoFar>) => canChange && going.change(number, next)
  const answer = (next: Responses) => {
    undone.current = { back: [...undone.current.back.slice(-40), responses], on: [] }
    change({ responses: next })
  }
  const step = (from: 'back' | 'on', to: 'back' | 'on') => {
    const taken = undone.current[from].at(-1)
    if (!taken) return
    undone.current = {
      ...undone.current,
      [from]: undone.current[from].slice(0, -1),
      [to]: [...undone.current[to], responses],
    }
    change({ responses: taken })
  }
  const clear = () => answer({})
  const strike = (part: string, choice: string) => {
    const struck = data.struck?.[part] ?? []
    const next = struck.includes(choice)
      ? struck.filter((one) => one !== choice)
      : [...struck, choice]
    change({ struck: { ...data.struck, [part]: next } })
  }
  const only = question.parts.length === 1 ? question.parts[0] : undefined
  const choices = only && 'choices' in only ? only.choices : []
  const choose = only && 'choices' in only ? only.choose : 1
  const readAloud = () => (aloud.reading ? aloud.stop() : aloud.start(asked.current, aloud.speed))
  const back = !linear && before?.can_change ? () => onGo(before.number) : undefined
  const on =
    onMoveOn && (linear || !after || after.section !== place.section)
      ? () => setOnward(true)
      : after
        ? () => onGo(after.number)
        : undefined
  const last = !after
  const forward = on && !(last && !(onMoveOn && !linear && moreSections(attempt))) ? on : onCheck

  useKeys({
    ...Object.fromEntries(
      choices.map((choice, i) => [
        String(i + 1),
        only && canChange
          ? () =>
              answer({
                ...responses,
                [only.id]: afterDigit(responses[only.id] ?? '', choice.id, choose),
              })
          : undefined,
      ]),
    ),
    '[': back,
    ']': forward,
    f: () => change({ flagged: !data.flagged }),
    n: has('notes') ? () => setNoting(!noting) : undefined,
    s: has('strike_out') ? () => setStriking(!striking) : undefined,
    a: has('working') ? () => setWorking(!working) : undefined,
    o: has('aloud') ? readAloud : undefined,
    u: () => step('back', 'on'),
    i: () => step('on', 'back'),
    x: canChange ? clear : undefined,
    v: () => onOpen('list'),
    c: onCheck,
    '?': () => onOpen('keys'),
  })

  return (
    <>
      <main id="main" className="min-w-0 px-5 pt-6 pb-8 @3xl:px-10 @5xl:px-[4.500rem]">
        <h2 ref={heading} tabIndex={-1} className="mb-3 text-base text-ink-2 outline-none">
          Question {number} of {attempt.places.at(-1)?.number}
          <span className="sr-only">: {question.title}</span>, {place.points}{' '}
          {place.points === '1' ? 'point' : 'points'}
        </h2>
        {attempt.sections[place.section]?.directions_html && (
          <Html
            html={attempt.sections[place.section]?.directions_html ?? ''}
            className="prose-study mb-4 max-w-[42rem] text-ink-2"
          />
        )}
        <form
          onSubmit={(event) => {
            event.preventDefault()
            forward()
          }}
          onKeyDown={(event) => {
            if (event.key === 'Escape' && event.target instanceof HTMLInputElement)
              event.target.blur()
          }}
        >
          <div ref={asked} inert={!canChange}>
            <QuestionView
              question={question}
              responses={responses}
              onChange={(part, value) => answer({ ...responses, [part]: value })}
              fieldRef={(node) => {
                field.current = node
              }}
              strikeFor={
                striking && has('strike_out')
                  ? (part) => ({
                      struck: data.struck?.[part] ?? [],
                      toggle: (choice) => strike(part, choice),
                    })
                  : undefined
              }
            />
          </div>
          <button type="submit" className="sr-only" tabIndex={-1} aria-hidden="true">
            On
          </button>
        </form>
        {attempt.submission === 'individual' && (
          <SendOne place={place} responses={responses} canChange={canChange} onSent={onSent} />
        )}
        {noting && (
          <Labelled label="Note to yourself; nobody marks it" className="mt-6 max-w-[45rem]">
            <TextArea
              rows={2}
              maxLength={2000}
              value={data.note ?? ''}
              onChange={(event) => change({ note: event.target.value })}
            />
          </Labelled>
        )}
        {working && (
          <WorkingArea
            working={data.working ?? NO_WORKING}
            onChange={(next) => change({ working: next })}
          />
        )}
        <MoreBelow />
      </main>
      <ExamStrip
        has={has}
        data={data}
        canChange={canChange}
        striking={striking}
        noting={noting}
        working={working}
        aloud={aloud}
        canUndo={undone.current.back.length > 0}
        canRedo={undone.current.on.length > 0}
        onFlag={() => change({ flagged: !data.flagged })}
        onStrike={() => setStriking(!striking)}
        onNote={() => setNoting(!noting)}
        onWorking={() => setWorking(!working)}
        onAloud={readAloud}
        onUndo={() => step('back', 'on')}
        onRedo={() => step('on', 'back')}
        onClear={clear}
        onOpen={onOpen}
        onBack={back}
        forward={{
          label: forward === onCheck ? 'Check and hand in' : 'Next question',
          act: forward,
        }}
      />
      <MoveOn
        open={onward}
        section={!linear}
        answered={question.parts.every((part) => responses[part.id]?.trim())}
        onClose={() => setOnward(false)}
        onGoOn={async () => {
          setOnward(false)
          noteTime()
          await onMoveOn?.()
        }}
      />
    </>
  )
}

const moreSections = (attempt: Attempt) => attempt.section + 1 < attempt.sections.length
