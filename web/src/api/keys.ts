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
  misses: (course: string) => ['course', course, 'misses'] as const,
  miss: (course: string, id: number) => ['course', course, 'misses', id] as const,
  study: (course: string, topic: string) => ['study', course, topic] as const,
  section: (course: string, topic: string, section: string) =>
    ['section', course, topic, section] as const,
  rehearsal: (course: string) => ['rehearsal', course] as const,
  run: (course: string, id: number) => ['run', course, id] as const,
  why: (course: string, question: number) => ['why', course, question] as const,
}
