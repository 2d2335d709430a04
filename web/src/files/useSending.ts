import { useQueryClient } from '@tanstack/react-query'
import { useSyncExternalStore } from 'react'
import { keys } from '../api/keys'
import { fileCalls } from './queries'
import { sendFile } from './send'

/** A file on its way. share: 0 to 1 of it is there. */
export interface Sending {
  id: number
  question: number
  part: string
  name: string
  share: number
  lost: boolean
  error: Error | null
}

// Beside React: a file goes on its way while its learner looks at another question.
let sendings: Sending[] = []
let last = 0
const listeners = new Set<() => void>()

function put(next: Sending[]) {
  sendings = next
  for (const listener of listeners) listener()
}

const change = (id: number, to: Partial<Sending>) =>
  put(sendings.map((one) => (one.id === id ? { ...one, ...to } : one)))
const drop = (id: number) => put(sendings.filter((one) => one.id !== id))

const listen = (listener: () => void) => {
  listeners.add(listener)
  return () => void listeners.delete(listener)
}

/** Files of a question on their way, and how to send more. onArrived: after each that has come. */
export function useSending(course: string, question: number, part: string) {
  const cache = useQueryClient()
  const all = useSyncExternalStore(listen, () => sendings)
  const send = async (file: File) => {
    last += 1
    const id = last
    put([...sendings, { id, question, part, name: file.name, share: 0, lost: false, error: null }])
    try {
      await sendFile(fileCalls(course, question), part, file, {
        progress: (share) => change(id, { share }),
        lost: (lost) => change(id, { lost }),
        stopped: () => !sendings.some((one) => one.id === id),
      })
      drop(id)
    } catch (error) {
      change(id, { error: error as Error })
    }
    await cache.invalidateQueries({ queryKey: keys.files(question) })
  }
  return {
    sendings: all.filter((one) => one.question === question && one.part === part),
    send,
    drop,
  }
}
