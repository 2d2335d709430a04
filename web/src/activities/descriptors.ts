import { t } from '@lingui/core/macro'
import type { Purpose, Question, Run } from '../api/client'
import { capital, counted } from '../ui/words'

export type Block = 'goal' | 'standing' | 'progress' | 'worth' | 'stuck'

/** How an activity shows itself. What the learner may do comes from the server, in `can`. */
export interface Activity {
  /** What is being done, in a word. */
  kind: string
  /** Whether its questions are counted in the bar. */
  numbered: boolean
  /** What the bar names while a question is open. */
  heading: (run: Run, question: Question) => string
  /** What stands beside the stage before an answer has changed anything. */
  rail: Block[]
  /** What the button after a closed question says when no further one waits. */
  atTheEnd: string | null
  /** What a topic is once its questions are through, where topics are gone through. */
  done: string
  /** Where leaving leads, within the course. */
  home: string
  headline: (run: Run) => string
  ending: (topic: Run['topics'][number]) => string
}

const STATUS = {
  open: t`still open`,
  settled: 'settled',
  close: t`close to your target: practice will tell`,
  exhausted: t`no more questions`,
  held: t`remembered`,
  lost: t`not remembered: back to practice`,
} as const

/** How many topics of a run are done with. */
export const settled = (run: Run) => run.topics.filter((topic) => topic.status !== 'open').length

export const ACTIVITIES: Record<Purpose, Activity> = {
  diagnostic: {
    kind: 'diagnostic',
    numbered: true,
    heading: (_, question) => question.topic.title,
    rail: ['progress'],
    atTheEnd: t`See your levels`,
    done: 'settled',
    home: '/',
    headline: (run) =>
      t`${capital(counted(settled(run), 'topic'))} settled, after ${counted(run.answered, 'question')}`,
    ending: (topic) => STATUS[topic.status],
  },
  practice: {
    kind: 'practice',
    numbered: true,
    heading: (run) => run.title,
    rail: ['goal', 'standing', 'worth', 'stuck'],
    atTheEnd: t`See your levels`,
    done: 'settled',
    home: '/',
    headline: (run) => `${capital(counted(run.answered, 'question'))} practised`,
    ending: (topic) => t`target ${topic.reading.target}`,
  },
  missed: {
    kind: 'review',
    numbered: false,
    heading: (run) => run.title,
    rail: ['stuck'],
    atTheEnd: null,
    done: 'settled',
    home: '/review',
    headline: (run) => run.title,
    ending: (topic) => t`target ${topic.reading.target}`,
  },
  recheck: {
    kind: 'recheck',
    numbered: true,
    heading: (_, question) => question.topic.title,
    rail: ['progress'],
    atTheEnd: t`See your results`,
    done: 'checked',
    home: '/',
    headline: (run) => {
      const held = run.topics.filter((topic) => topic.status === 'held').length
      return t`${capital(counted(held, 'target'))} remembered, of ${run.topics.length}`
    },
    ending: (topic) => STATUS[topic.status],
  },
  quiz: {
    kind: 'quiz',
    numbered: true,
    heading: (_, question) => question.topic.title,
    rail: ['progress'],
    atTheEnd: t`See how it went`,
    done: t`reached the target`,
    home: '/review',
    headline: (run) => run.goal?.says ?? run.title,
    ending: (topic) => t`target ${topic.reading.target}`,
  },
  test: {
    kind: 'test',
    numbered: true,
    heading: (run) => run.title,
    rail: [],
    atTheEnd: null,
    done: 'answered',
    home: '/tests',
    headline: (run) => run.title,
    ending: (topic) => t`target ${topic.reading.target}`,
  },
}

/** The word for what an answer was given in. */
export const kindOf = (purpose: Purpose) => ACTIVITIES[purpose].kind
