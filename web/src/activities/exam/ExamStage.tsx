import { t } from '@lingui/core/macro'
import { useEffect, useState } from 'react'
import type { Question } from '../../api/client'
import { useAloud } from '../../player/aloud'
import { Html } from '../../ui/Html'
import { counted } from '../../ui/words'
import type { Opened, Shown } from './ExamStrip'
import { MoreBelow } from './MoreBelow'
import { MoveOn } from './MoveOn'
import { PlaceBody, type Ways } from './PlaceBody'
import { isOpen, standing } from './PlaceList'
import { pageOf, wayOn } from './pages'
import type { Attempt, Place } from './queries'
import type { Going } from './useAttempt'
import { useTimeInView } from './useTimeInView'

interface Props {
  attempt: Attempt
  /** The question in view; where several stand on its page, the one that keys and tools are for. */
  at: Place
  /** Changes when the focus is to go to the question in view. */
  asked: object
  sent: Record<number, Question>
  going: Going
  onAt: (number: number) => void
  onSent: (number: number, question: Question) => void
  onGo: (number: number) => void
  onMoveOn: () => Promise<void>
  onCheck: () => void
  onOpen: (what: Opened) => void
  shown: Shown
  onShow: (what: keyof Shown) => void
}

const ON_PAGE = '-ml-5 border-t border-l-4 border-t-line pt-5 pb-8 pl-4'

/** The page being worked on in a test: one question, or a section with all of its own. */
export function ExamStage(props: Props) {
  const { attempt, at, asked, sent, going, onAt, onGo, onCheck, onOpen, shown, onShow } = props
  const page = pageOf(attempt, at).map((place) => standing(place, going.held, sent))
  const [strip, setStrip] = useState<HTMLElement | null>(null)
  const [onward, setOnward] = useState(false)
  const aloud = useAloud()
  const noteTime = useTimeInView(at.number, going.note)
  const alone = page.length === 1
  const section = attempt.sections[at.section]
  const last = attempt.places.at(-1)?.number
  const begins = attempt.places.find((one) => one.section === at.section) === at

  // Everything on the page was seen.
  const { note } = going
  const numbers = page.map(({ place }) => place.number).join()
  useEffect(() => {
    for (const number of numbers.split(',')) note(Number(number), 0)
  }, [numbers, note])

  const { back, on } = wayOn(attempt, at)
  const ways: Ways = {
    back: back ? () => onGo(back) : undefined,
    forward:
      on === 'check'
        ? { label: t`Check and hand in`, act: onCheck }
        : {
            label: on === 'section' ? t`Next section` : alone ? t`Next question` : t`Next page`,
            act: typeof on === 'number' ? () => onGo(on) : () => setOnward(true),
          },
  }
  return (
    <>
      <main id="main" className="min-w-0 px-5 pt-6 pb-8 @3xl:px-10 @5xl:px-[4.500rem]">
        {!alone && (
          <h2 className="mb-3 text-base text-ink-2">
            {t`Questions ${at.page} to ${at.page + page.length - 1} of`} {last}
          </h2>
        )}
        {!alone && section && <Directions html={section.directions_html} begins />}
        {page.map(({ place }, i) => {
          const { number, question } = place
          const text = question.stimulus_html
          const textAbove = Boolean(text) && page[i - 1]?.place.question.stimulus_html === text
          const withText = page.find(({ place: one }) => one.question.stimulus_html === text)?.place
            .number
          const next = page[i + 1]?.place.number
          const words = (
            <>
              <span className="sr-only">: {question.title}</span>, {counted(place.points, 'point')}
              {place.working_wanted && t`. Show your working`}
            </>
          )
          return (
            <div
              key={number}
              className={
                alone
                  ? ''
                  : `${ON_PAGE} ${number === at.number ? 'border-l-gust' : 'border-l-transparent'}`
              }
            >
              <PlaceBody
                attempt={attempt}
                place={place}
                going={going}
                active={number === at.number}
                asked={number === at.number ? asked : undefined}
                textAbove={textAbove}
                strip={strip}
                aloud={aloud}
                ways={ways}
                onEnter={next ? () => onGo(next) : ways.forward.act}
                onActive={() => number !== at.number && onAt(number)}
                onSent={(after) => props.onSent(number, after)}
                onCheck={onCheck}
                onOpen={onOpen}
                shown={shown}
                onShow={onShow}
                heading={(ref) =>
                  alone ? (
                    <>
                      <h2
                        ref={ref}
                        tabIndex={-1}
                        className="mb-3 text-base text-ink-2 outline-none"
                      >
                        {t`Question ${number} of`} {last}
                        {words}
                      </h2>
                      {section && <Directions html={section.directions_html} begins={begins} />}
                    </>
                  ) : (
                    <div className="mb-3 flex flex-wrap items-baseline gap-x-6">
                      <h3
                        ref={ref}
                        tabIndex={-1}
                        className="font-sans text-base font-semibold outline-none"
                      >
                        {t`Question ${number}`}
                        {words}
                      </h3>
                      {textAbove && (
                        <button
                          type="button"
                          className="min-h-8 text-gust underline-offset-4 hover:underline"
                          onClick={() => onGo(withText ?? number)}
                        >{t`Go to the text`}</button>
                      )}
                    </div>
                  )
                }
              />
            </div>
          )
        })}
        <MoreBelow />
      </main>
      <div ref={setStrip} className="contents" />
      <MoveOn
        open={onward}
        to={on === 'section' ? 'section' : alone ? 'question' : 'page'}
        answered={page.every(({ state }) => !isOpen(state))}
        onClose={() => setOnward(false)}
        onGoOn={async () => {
          setOnward(false)
          noteTime()
          await props.onMoveOn()
        }}
      />
    </>
  )
}

/** Directions of a section: open where it begins, a press away at its later questions. */
function Directions({ html, begins }: { html: string; begins: boolean }) {
  if (!html) return null
  const text = <Html html={html} className="prose-study mb-4 max-w-[42rem] text-ink-2" />
  if (begins) return text
  return (
    <details className="mb-3">
      <summary className="py-1 text-ink-2">{t`Instructions for this section`}</summary>
      {text}
    </details>
  )
}
