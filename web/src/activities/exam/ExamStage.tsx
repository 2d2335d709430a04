import { t } from '@lingui/core/macro'
import { useLayoutEffect, useRef, useState } from 'react'
import type { Question, Schemas } from '../../api/client'
import { PaperWorking } from '../../files/PaperWorking'
import { FilesAt, useFilesAt } from '../../files/place'
import { useAloud } from '../../player/aloud'
import { digitsOf } from '../../player/kinds/registry'
import { QuestionView } from '../../player/QuestionView'
import { NO_WORKING } from '../../player/strokes'
import { WorkingArea } from '../../player/WorkingArea'
import { Html } from '../../ui/Html'
import { useKeys } from '../../ui/useKeys'
import { counted } from '../../ui/words'
import { ExamStrip, LYING, type Opened, type Shown } from './ExamStrip'
import { MoreBelow } from './MoreBelow'
import { MoveOn } from './MoveOn'
import { OnPaper } from './OnPaper'
import { OwnNote } from './OwnNote'
import type { Attempt, Place, SoFar } from './queries'
import { SendOne } from './SendOne'
import { lastAnswers } from './sent'
import { Marker } from './tools/Marker'
import type { MarkedText } from './tools/marks'
import { useAnswer } from './useAnswer'
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
  shown: Shown
  onShow: (what: keyof Shown) => void
}

const NO_MARKS: MarkedText[] = []

/** The question being worked on in a test. */
export function ExamStage(props: Props) {
  const { attempt, place, going, onSent, onGo, onMoveOn, onCheck, onOpen, shown, onShow } = props
  const { question, number } = place
  const held = going.held[number]
  const data: SoFar = held?.data ?? place.data
  const canChange = place.can_change && !question.closed && going.over === null
  const field = useRef<HTMLInputElement | null>(null)
  const heading = useRef<HTMLHeadingElement>(null)
  const asked = useRef<HTMLDivElement>(null)
  const aloud = useAloud()
  const [noting, setNoting] = useState(Boolean(data.note))
  const [striking, setStriking] = useState(Object.values(data.struck ?? {}).some((s) => s.length))
  const [working, setWorking] = useState(
    Boolean(place.working_wanted || data.working?.lines || data.working?.strokes?.length),
  )
  const [marking, setMarking] = useState(false)
  const text = useRef<HTMLDivElement>(null)
  const [onward, setOnward] = useState(false)
  const has = (tool: Schemas['Tool']) => attempt.tools.includes(tool)
  const at = useFilesAt(question.id)
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
  const individual = attempt.submission === 'individual'
  const own = question.closed ? {} : data.responses
  const put = individual ? { ...data, responses: { ...lastAnswers(question), ...own } } : data
  const { responses, answer, clear, undo, redo, canUndo, canRedo, strike } = useAnswer(put, change)
  const only = question.parts.length === 1 ? question.parts[0] : undefined
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
      digitsOf(only).map((after, i) => [
        String(i + 1),
        only && canChange
          ? () =>
              answer({
                ...responses,
                [only.id]: after(responses[only.id] ?? ''),
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
    m: has('marker') && canChange ? () => setMarking(!marking) : undefined,
    ...Object.fromEntries(
      LYING.map(({ what, hint, needs }) => [
        hint.toLowerCase(),
        needs.some(has) ? () => onShow(what) : undefined,
      ]),
    ),
    o: has('aloud') ? readAloud : undefined,
    u: undo,
    i: redo,
    x: canChange ? clear : undefined,
    v: () => onOpen('list'),
    c: onCheck,
    '?': () => onOpen('keys'),
  })

  return (
    <>
      <main id="main" className="min-w-0 px-5 pt-6 pb-8 @3xl:px-10 @5xl:px-[4.500rem]">
        <h2 ref={heading} tabIndex={-1} className="mb-3 text-base text-ink-2 outline-none">
          {t`Question ${number} of`} {attempt.places.at(-1)?.number}
          <span className="sr-only">: {question.title}</span>, {counted(place.points, 'point')}
          {place.working_wanted && t`. Show your working`}
        </h2>
        {attempt.sections[place.section]?.directions_html && (
          <Html
            html={attempt.sections[place.section]?.directions_html ?? ''}
            className="prose-study mb-4 max-w-[42rem] text-ink-2"
          />
        )}
        {has('marker') && (
          <Marker
            text={text}
            on={marking}
            marked={data.marked ?? NO_MARKS}
            onChange={(marked) => change({ marked })}
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
            <FilesAt value={at}>
              <QuestionView
                question={question}
                responses={responses}
                onChange={(part, value) => answer({ ...responses, [part]: value })}
                textRef={text}
                read={held?.read}
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
            </FilesAt>
          </div>
          <button
            type="submit"
            className="sr-only"
            tabIndex={-1}
            aria-hidden="true"
          >{t`On`}</button>
        </form>
        {attempt.pages !== 'none' && (
          <OnPaper data={data} disabled={!canChange} onChange={change} />
        )}
        {individual && (
          <SendOne place={place} responses={responses} canChange={canChange} onSent={onSent} />
        )}
        {noting && <OwnNote value={data.note ?? ''} onChange={(note) => change({ note })} />}
        {working && (
          <WorkingArea
            working={data.working ?? NO_WORKING}
            onChange={(next) => change({ working: next })}
          />
        )}
        {working && has('working') && <PaperWorking at={at} />}
        <MoreBelow />
      </main>
      <ExamStrip
        has={has}
        data={data}
        canChange={canChange}
        striking={striking}
        noting={noting}
        working={working}
        marking={marking}
        shown={shown}
        onMark={() => setMarking(!marking)}
        onShow={onShow}
        aloud={aloud}
        canUndo={canUndo}
        canRedo={canRedo}
        onFlag={() => change({ flagged: !data.flagged })}
        onStrike={() => setStriking(!striking)}
        onNote={() => setNoting(!noting)}
        onWorking={() => setWorking(!working)}
        onAloud={readAloud}
        onUndo={undo}
        onRedo={redo}
        onClear={clear}
        onOpen={onOpen}
        onBack={back}
        forward={{
          label: forward === onCheck ? t`Check and hand in` : t`Next question`,
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
