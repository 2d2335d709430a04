/**
 * Keys of everything the query cache holds, in one place. What belongs to a course begins with
 * it, so that an answer can mark all of one course's pages as old.
 */
export const keys = {
  session: ['session'] as const,
  courses: ['courses'] as const,
  course: (course: string) => ['course', course] as const,
  today: (course: string) => ['course', course, 'today'] as const,
  topics: (course: string) => ['course', course, 'topics'] as const,
  topic: (course: string, key: string) => ['course', course, 'topics', key] as const,
  plan: (course: string) => ['course', course, 'plan'] as const,
  toDate: (course: string) => ['course', course, 'to-date'] as const,
  spellPlan: (course: string, minutes: number) =>
    ['course', course, 'spell-plan', minutes] as const,
  spell: (course: string, id: number) => ['course', course, 'spell', id] as const,
  aims: (course: string) => ['course', course, 'aims'] as const,
  misses: (course: string) => ['course', course, 'misses'] as const,
  revision: (course: string) => ['course', course, 'misses', 'revision'] as const,
  quiz: (course: string, wanted: object) => ['course', course, 'quiz', wanted] as const,
  miss: (course: string, id: number) => ['course', course, 'misses', id] as const,
  tests: (course: string) => ['course', course, 'tests'] as const,
  test: (course: string, ref: string) => ['course', course, 'tests', ref] as const,
  attempt: (course: string, id: number) => ['attempt', course, id] as const,
  receipt: (course: string, id: number) => ['attempt', course, id, 'receipt'] as const,
  results: (course: string, id: number) => ['course', course, 'results', id] as const,
  result: (course: string, id: number, number: number) =>
    ['course', course, 'results', id, number] as const,
  study: (course: string, topic: string) => ['study', course, topic] as const,
  section: (course: string, topic: string, section: string) =>
    ['section', course, topic, section] as const,
  rehearsal: (course: string) => ['rehearsal', course] as const,
  run: (course: string, id: number) => ['run', course, id] as const,
  why: (course: string, question: number) => ['why', course, question] as const,
  classmates: (course: string) => ['classmates', course] as const,
  /** whose: the key of a course for one's own record, or the number of a learner's enrolment. */
  record: (whose: string | number) => ['record', whose] as const,
  tries: (whose: string | number, filter: object) => ['record', whose, 'tries', filter] as const,
  try: (whose: string | number, id: number) => ['record', whose, 'try', id] as const,
  notices: ['notices'] as const,
  mail: ['notices', 'mail'] as const,
  outbox: ['outbox'] as const,
  calendar: ['calendar'] as const,
  links: ['links'] as const,
  threads: ['threads'] as const,
  threadList: (of: string, filter: object) => ['threads', of, filter] as const,
  thread: (id: number) => ['threads', id] as const,
  groups: ['groups'] as const,
  group: (id: number) => ['groups', id] as const,
  groupSettings: (id: number) => ['groups', id, 'settings'] as const,
  learner: (id: number) => ['learner', id] as const,
  learnerTopic: (id: number, key: string) => ['learner', id, 'topics', key] as const,
  wards: ['wards'] as const,
}
