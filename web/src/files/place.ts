import { createContext, useMemo } from 'react'
import { useCourse } from '../account/course'

/** Whose files they are: one's own in a course, or those of a learner whom one teaches or minds. */
export type Whose = { course: string } | { enrolment: number }

/** Where files of a question are. Without one, as in a preview, files are only named. */
export interface FilesPlace {
  whose: Whose
  question: number
}

export const FilesAt = createContext<FilesPlace | null>(null)

/** Where one's own files of a question are. */
export function useFilesAt(question: number): FilesPlace {
  const course = useCourse()
  return useMemo(() => ({ whose: { course }, question }), [course, question])
}
