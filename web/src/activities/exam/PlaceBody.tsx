import { t } from '@lingui/core/macro'
import { type ReactNode, useLayoutEffect, useRef, useState } from 'react'
import { createPortal } from 'react-dom'
import type { Question, Schemas } from '../../api/client'
import { PaperWorking } from '../../files/PaperWorking'
import { FilesAt, useFilesAt } from '../../files/place'
import type { useAloud } from '../../player/aloud'
import { digitsOf } from '../../player/kinds/registry'
import { QuestionView } from '../../player/QuestionView'
import { NO_WORKING } from '../../player/strokes'
import { WorkingArea } from '../../player/WorkingArea'
import { useKeys } from '../../ui/useKeys'
import { ExamStrip, LYING, type Opened, type Shown } from './ExamStrip'
import { OnPaper } from './OnPaper'
import { OwnNote } from './OwnNote'
import type { Attempt, Place, SoFar } from './queries'
import { SendOne } from './SendOne'
import { lastAnswers } from './sent'
import { Marker } from './tools/Marker'
import type { MarkedText } from './tools/marks'
import { useAnswer } from './useAnswer'
import type { Going } from './useAttempt'

/** The way from a page: back where there is one, on always, and from a field by Enter. */
export interface Ways {
  back?: () => void
  forward: { label: string; act: () => void }
}

interface Props {
  attempt: Attempt
  place: Place
  going: Going
  /** Whether keys and tools are for this one of the page. */
  active: boolean
  /** Changes when the focus is asked for. */
  asked: object | undefined
  /** Whether the text that it shares with the one above it is shown there. */
  textAbove: boolean
  /** Where its tools stand while it is the active one. */
  strip: HTMLElement | null
  aloud: ReturnType<typeof useAloud>
  ways: Ways
  onEnter: () => void
  onActive: () => void
  onSent: (question: Question) => void
  onCheck: () => void
  onOpen: (what: Opened) => void
  shown: Shown
  onShow: (what: keyof Shown) => void
  heading: (of: React.Ref<HTMLHeadingElement>) => ReactNode
}

const NO_MARKS: MarkedText[] = []

/** A question being worked on in a test, with everything that is put down at it. */
export function PlaceBody(props: Props) {
  const { attempt, place, going, active, asked, aloud, ways, onCheck, onOpen, shown, onShow } =
    props
  const { question, number } = place
  const held = going.held[number]
  const data: SoFar = held?.data ?? place.data
  const canChange = place.can_change && !question.closed && going.over === null
  const field = useRef<HTMLInputElement | null>(null)
  const heading = useRef<HTMLHeadingElement>(null)
  const read = useRef<HTMLDivElement>(null)
  const text = useRef<HTMLDivElement>(null)
  const [noting, setNoting] = useState(Boolean(data.note))
  const [striking, setStriking] = useState(Object.values(data.struck ?? {}).some((s) => s.length))
  const [working, setWorking] = useState(
    Boolean(place.working_wanted || data.working?.lines || data.working?.strokes?.length),
  )
  const [marking, setMarking] = useState(false)
  const has = (tool: Schemas['Tool']) => attempt.tools.includes(tool)
  const at = useFilesAt(question.id)

  useLayoutEffect(() => {
    if (!asked) return
    ;(field.current ?? heading.current)?.focus({ preventScroll: true })
    if (place.page === number) window.scrollTo(0, 0)
    else heading.current?.scrollIntoView()
  }, [asked, place.page, number])

  const change = (next: Partial<SoFar>) => canChange && going.change(number, next)
  const individual = attempt.submission === 'individual'
  const own = question.closed ? {} : data.responses
  const put = individual ? { ...data, responses: { ...lastAnswers(question), ...own } } : data
  const { responses, answer, clear, undo, redo, canUndo, canRedo, strike } = useAnswer(put, change)
  const only = question.parts.length === 1 ? question.parts[0] : undefined
  const readAloud = () => (aloud.reading ? aloud.stop() : aloud.start(read.current, aloud.speed))
  const flag = () => change({ flagged: !data.flagged })
  const mark = has('marker') && canChange ? () => setMarking(!marking) : undefined

  const keys = {
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
    '[': ways.back,
    ']': ways.forward.act,
    f: flag,
    n: has('notes') ? () => setNoting(!noting) : undefined,
    s: has('strike_out') ? () => setStriking(!striking) : undefined,
    a: has('working') ? () => setWorking(!working) : undefined,
    m: mark,
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
  }
  useKeys(active ? keys : {})

  return (
    <section
      aria-label={t`Question ${number}: ${question.title}`}
      onFocusCapture={props.onActive}
      onPointerDownCapture={props.onActive}
    >
      {props.heading(heading)}
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
          props.onEnter()
        }}
        onKeyDown={(event) => {
          if (event.key === 'Escape' && event.target instanceof HTMLInputElement)
            event.target.blur()
        }}
      >
        <div ref={read} inert={!canChange}>
          <FilesAt value={at}>
            <QuestionView
              question={props.textAbove ? { ...question, stimulus_html: null } : question}
              responses={responses}
              onChange={(part, value) => answer({ ...responses, [part]: value })}
              textRef={text}
              digits={active}
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
        <button type="submit" className="sr-only" tabIndex={-1} aria-hidden="true">{t`On`}</button>
      </form>
      {attempt.pages !== 'none' && <OnPaper data={data} disabled={!canChange} onChange={change} />}
      {individual && (
        <SendOne place={place} responses={responses} canChange={canChange} onSent={props.onSent} />
      )}
      {noting && <OwnNote value={data.note ?? ''} onChange={(note) => change({ note })} />}
      {working && (
        <WorkingArea
          working={data.working ?? NO_WORKING}
          onChange={(next) => change({ working: next })}
        />
      )}
      {working && has('working') && <PaperWorking at={at} />}
      {active &&
        props.strip &&
        createPortal(
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
            onFlag={flag}
            onStrike={() => setStriking(!striking)}
            onNote={() => setNoting(!noting)}
            onWorking={() => setWorking(!working)}
            onAloud={readAloud}
            onUndo={undo}
            onRedo={redo}
            onClear={clear}
            onOpen={onOpen}
            onBack={ways.back}
            forward={ways.forward}
          />,
          props.strip,
        )}
    </section>
  )
}
