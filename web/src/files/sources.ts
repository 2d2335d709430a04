import { useQuery, useQueryClient } from '@tanstack/react-query'
import { keys } from '../api/keys'
import type { FilesPlace } from './place'
import { fileCalls, filesQuery, handInCalls, handInQuery, type StoredFile } from './queries'
import type { Calls } from './send'

/** Files of one's own in a place, and what can be done with them. closed: why nothing can. */
export interface Source {
  place: string
  part: string
  files: StoredFile[] | undefined
  closed: string
  error: Error | null
  calls: Calls & { remove: (file: number) => Promise<unknown> }
  changed: () => void
}

/** Of a part of a question, or of the working beside it. watching: some may come from a phone. */
export function useQuestionFiles(
  at: FilesPlace,
  course: string,
  part: string,
  watching = false,
): Source {
  const cache = useQueryClient()
  const query = useQuery(filesQuery(at, watching))
  return {
    place: `question:${at.question}:${part}`,
    part,
    files: query.data?.files.filter((one) => one.part === part && one.arrived),
    closed: query.data?.closed[part] ?? '',
    error: query.error,
    calls: fileCalls(course, at.question),
    changed: () => void cache.invalidateQueries({ queryKey: keys.files(at.question) }),
  }
}

/** Of what is handed in with set work. */
export function useHandInFiles(course: string, task: number): Source {
  const cache = useQueryClient()
  const query = useQuery(handInQuery(course, task))
  return {
    place: `task:${task}`,
    part: '',
    files: query.data?.files.filter((one) => one.arrived),
    closed: query.data?.closed ?? '',
    error: query.error,
    calls: handInCalls(course, task),
    changed: () => void cache.invalidateQueries({ queryKey: keys.task(course, task) }),
  }
}
