import { useSyncExternalStore } from 'react'
import { type Calls, sendFile } from './send'

/** A file on its way. share: 0 to 1 of it is there. */
export interface Sending {
  id: number
  place: string
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

/** Files on their way to a place, and how to send more. changed: after each that came or didn't. */
export function useSending(place: string, part: string, calls: Calls, changed: () => void) {
  const all = useSyncExternalStore(listen, () => sendings)
  const send = async (file: File) => {
    last += 1
    const id = last
    put([...sendings, { id, place, name: file.name, share: 0, lost: false, error: null }])
    try {
      await sendFile(calls, part, file, {
        progress: (share) => change(id, { share }),
        lost: (lost) => change(id, { lost }),
        stopped: () => !sendings.some((one) => one.id === id),
      })
      drop(id)
    } catch (error) {
      change(id, { error: error as Error })
    }
    changed()
  }
  return { sendings: all.filter((one) => one.place === place), send, drop }
}
