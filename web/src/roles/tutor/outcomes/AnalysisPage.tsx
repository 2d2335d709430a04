import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import type { ReactNode } from 'react'
import { useParams } from 'react-router'
import type { Schemas } from '../../../api/client'
import { buttonClass } from '../../../ui/Button'
import { DriftBar } from '../../../ui/DriftBar'
import { Loaded } from '../../../ui/states'
import { TextLink } from '../../../ui/TextLink'
import { useTitle } from '../../../ui/useTitle'
import { counted } from '../../../ui/words'
import { Beside } from './Beside'
import { analysisQuery, testAnalysisQuery } from './queries'
import { Whole } from './Whole'

type Analysis = Schemas['AnalysisOut']
type Question = Analysis['questions'][number]

/** What a test says about itself: as a whole, and each question beside the rest. */
export default function AnalysisPage() {
  const group = Number(useParams().group)
  const assignment = Number(useParams().assignment)
  const query = useQuery(analysisQuery(group, assignment))
  const at = `/tutor/work/${group}/${assignment}`
  return (
    <Loaded query={query} what={t`the analysis`}>
      {(found) => (
        <Opened found={found} at={at} back={`${at}/results`}>
          <p className="mt-3 flex flex-wrap gap-3">
            <TextLink
              to={`/tutor/groups/${group}/teach`}
              className={buttonClass('plain')}
            >{t`What to teach next`}</TextLink>
          </p>
          <Beside group={group} assignment={assignment} />
        </Opened>
      )}
    </Loaded>
  )
}

/** The same over every group that has the test, without names. */
export function TestAnalysisPage({ home }: { home: string }) {
  const { course = '', test } = useParams()
  const query = useQuery(testAnalysisQuery(course, Number(test)))
  return (
    <Loaded query={query} what={t`the analysis`}>
      {(found) => <Opened found={found} at={null} back={`${home}/tests/${course}`} />}
    </Loaded>
  )
}

interface OpenedProps {
  found: Analysis
  /** Where its questions are regraded; null where they can’t be from here. */
  at: string | null
  back: string
  children?: ReactNode
}

function Opened({ found, at, back, children }: OpenedProps) {
  useTitle(t`What the test says about itself`)
  return (
    <main id="main" className="px-5 py-8 @5xl:px-8">
      <p>
        <TextLink to={back}>{found.test}</TextLink>
      </p>
      <h1 className="mt-0.5 text-3xl">{found.headline}</h1>
      <p className="mt-1 text-ink-2">{t`${found.group}, ${counted(found.attempts, 'attempt')}`}</p>
      {found.figures && (
        <div className="mt-6 grid gap-x-12 gap-y-8 @5xl:grid-cols-[minmax(0,1fr)_22rem]">
          <Questions questions={found.questions} at={at} />
          <Whole figures={found.figures} attempts={found.attempts} />
        </div>
      )}
      {children}
    </main>
  )
}

const cent = (share: number) => Math.round(100 * share)

function Questions({ questions, at }: { questions: Question[]; at: string | null }) {
  return (
    <section aria-label={t`Questions`} className="min-w-0">
      <p className="hidden gap-x-6 text-sm text-ink-2 @3xl:grid @3xl:grid-cols-[minmax(0,16rem)_minmax(0,1fr)_8rem]">
        <span>{t`Question`}</span>
        <span>{t`share of the points, and the post where it was expected`}</span>
        <span>{t`lower, middle, upper third`}</span>
      </p>
      <ol className="border-t-2 border-edge">
        {questions.map((one, place) => (
          <li key={one.family} className="border-b border-line py-2.5">
            <div className="grid items-center gap-x-6 gap-y-1 @3xl:grid-cols-[minmax(0,16rem)_minmax(0,1fr)_8rem]">
              <span>
                <span className="mr-2 text-ink-2 tabular-nums">{place + 1}</span>
                {at === null ? (
                  <span className="font-semibold">{one.title}</span>
                ) : (
                  <TextLink to={`${at}/regrade/${one.family}`} className="font-semibold">
                    {one.title}
                  </TextLink>
                )}
              </span>
              <DriftBar
                name={one.title}
                says={shareWords(one)}
                reading={{
                  level: cent(one.share),
                  middle: cent(one.share),
                  low: cent(one.low),
                  high: cent(one.high),
                  target: cent(one.expected ?? one.share),
                }}
              />
              <Thirds thirds={one.thirds} doubtful={one.doubtful} />
            </div>
            <p className="text-sm text-ink-2">
              {t`${cent(one.share)}% of the points, ${one.seconds} s`}
              {one.expected !== null && t`, expected ${cent(one.expected)}%`}
              {one.rest !== null && t`, goes with the rest ${one.rest}`}
              {one.empty > 0 && t`, empty ${one.empty}`}
              {one.unreached > 0 && t`, not reached ${one.unreached}`}
              {one.flagged > 0 && t`, flagged ${one.flagged}`}
            </p>
            {one.says && <p className={one.doubtful ? 'text-wrong' : 'text-part'}>{one.says}</p>}
            {one.answers.length > 0 && <WrongAnswers one={one} />}
            {one.doubtful && at !== null && (
              <p className="mt-1.5">
                <TextLink to={`${at}/regrade/${one.family}`} className={buttonClass('plain')}>
                  {t`Look at the key and regrade`}
                </TextLink>
              </p>
            )}
          </li>
        ))}
      </ol>
    </section>
  )
}

const shareWords = (one: Question) =>
  one.expected === null
    ? t`${one.title}: ${cent(one.share)}% of the points, probably between ${cent(one.low)} and ${cent(one.high)}%`
    : t`${one.title}: ${cent(one.share)}% of the points, probably between ${cent(one.low)} and ${cent(one.high)}%, expected ${cent(one.expected)}%`

function Thirds({ thirds, doubtful }: { thirds: number[]; doubtful: boolean }) {
  const [low = 0, middle = 0, high = 0] = thirds.map(cent)
  return (
    <svg
      viewBox="0 0 120 34"
      className="block w-28"
      role="img"
      aria-label={t`Lower third ${low}%, middle ${middle}%, upper ${high}%`}
    >
      {[low, middle, high].map((share, place) => (
        <rect
          // biome-ignore lint/suspicious/noArrayIndexKey: a third is its place
          key={place}
          x={place * 40 + 4}
          y={32 - share * 0.3}
          width={30}
          height={share * 0.3}
          rx={3}
          fill={doubtful ? 'var(--v-wrong)' : 'var(--v-gust-mid)'}
        />
      ))}
      <line x1="0" x2="120" y1="32" y2="32" stroke="var(--v-edge)" strokeWidth="1.5" />
    </svg>
  )
}

function WrongAnswers({ one }: { one: Question }) {
  return (
    <ul className="mt-1 text-sm text-ink-2">
      {one.answers.map((each) => (
        <li key={each.answer}>
          {t`${each.answer}: ${each.lower}, ${each.middle}, ${each.upper} of the lower, middle and upper third`}
        </li>
      ))}
    </ul>
  )
}
