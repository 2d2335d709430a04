import { useRef } from 'react'
import type { SoFar } from './queries'

type Responses = Record<string, string>

const STEPS = 40

/** Answers of the question in view, with steps back and on again, and struck-out choices. */
export function useAnswer(data: SoFar, change: (next: Partial<SoFar>) => void) {
  const responses: Responses = data.responses ?? {}
  const steps = useRef<{ back: Responses[]; on: Responses[] }>({ back: [], on: [] })
  const answer = (next: Responses) => {
    steps.current = { back: [...steps.current.back.slice(-STEPS), responses], on: [] }
    change({ responses: next })
  }
  const step = (from: 'back' | 'on', to: 'back' | 'on') => () => {
    const taken = steps.current[from].at(-1)
    if (!taken) return
    steps.current = {
      ...steps.current,
      [from]: steps.current[from].slice(0, -1),
      [to]: [...steps.current[to], responses],
    }
    change({ responses: taken })
  }
  const strike = (part: string, choice: string) => {
    const struck = data.struck?.[part] ?? []
    const next = struck.includes(choice)
      ? struck.filter((one) => one !== choice)
      : [...struck, choice]
    change({ struck: { ...data.struck, [part]: next } })
  }
  return {
    responses,
    answer,
    // Emptied and not left out: what was sent before must not come back.
    clear: () => answer(Object.fromEntries(Object.keys(responses).map((part) => [part, '']))),
    undo: step('back', 'on'),
    redo: step('on', 'back'),
    canUndo: steps.current.back.length > 0,
    canRedo: steps.current.on.length > 0,
    strike,
  }
}
