import { useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useRef, useState } from 'react'
import { type Answer, ApiError, type Question, type RunState, Unreachable } from '../../api/client'
import { type Draft, forgetDraft, keyFor, newKey } from '../../player/draft'
import { reviewKeys } from '../review/queries'
import * as requests from './queries'

const RETRY_MS = 4000

export interface RunActions {
  busy: boolean
  /** Why the last action did not work; the typed answer is kept. */
  problem: string | null
  /** An answer that waits for the connection. */
  waiting: boolean
  answer: (draft: Draft) => void
  notTaught: () => void
  takeBack: () => void
  swap: () => void
  hint: () => void
  working: () => void
  fresh: () => void
  finish: () => void
  next: () => void
  /** Once the study section that comes first was opened. */
  goOn: () => void
  dismiss: () => void
}

/** The actions of a run on its question. Replies go into the query cache, where the screen reads. */
export function useRun(sheet: requests.Sheet, question: Question | null): RunActions {
  const cache = useQueryClient()
  const { id, purpose } = sheet.run
  const [busy, setBusy] = useState(false)
  const [problem, setProblem] = useState<string | null>(null)
  const [unsent, setUnsent] = useState<(() => void) | null>(null)
  const running = useRef(false)

  const put = useCallback(
    (next: requests.Sheet) => cache.setQueryData(requests.runKeys.one(purpose, id), next),
    [cache, purpose, id],
  )
  const changed = useCallback(() => {
    // A miss just mended must not be offered from memory.
    cache.removeQueries({ queryKey: reviewKeys.all })
    for (const queryKey of [['today'], ['topics'], ['topic'], ['practice-plan']])
      void cache.invalidateQueries({ queryKey })
  }, [cache])

  const perform = useCallback(
    async <T>(send: () => Promise<T>, done: (result: T) => void, told: string | null = null) => {
      if (running.current) return
      running.current = true
      let gone: string | null = null
      setBusy(true)
      setProblem(told)
      try {
        const result = await send()
        setUnsent(null)
        done(result)
        changed()
      } catch (error) {
        if (error instanceof Unreachable) setUnsent(() => () => void perform(send, done))
        else if (error instanceof ApiError) {
          setUnsent(null)
          setProblem(error.message)
          if (error.code === 'question_closed')
            void cache.refetchQueries({ queryKey: requests.runKeys.one(purpose, id) })
          if (error.code === 'not_live' && purpose !== 'missed') gone = error.message
          if (error.code === 'signed_out') void cache.invalidateQueries({ queryKey: ['session'] })
        } else throw error
      } finally {
        running.current = false
        setBusy(false)
      }
      if (gone) void perform(() => requests.goOn(purpose, id), put, gone)
    },
    [cache, changed, put, purpose, id],
  )

  useEffect(() => {
    if (!unsent) return
    const timer = window.setInterval(unsent, RETRY_MS)
    window.addEventListener('online', unsent)
    return () => {
      window.clearInterval(timer)
      window.removeEventListener('online', unsent)
    }
  }, [unsent])

  const answered = (asked: Question) => (reply: Answer) => {
    if (reply.question.closed) forgetDraft(asked.id)
    put(reply)
  }
  const replaced = (state: RunState) => put(state)
  const on = (act: (asked: Question) => void) => () => {
    if (question) act(question)
  }

  return {
    busy,
    problem,
    waiting: unsent !== null,
    answer: (draft) => {
      if (!question) return
      const { responses, confidence } = draft
      const replay_key = keyFor(question.id, draft)
      void perform(
        () => requests.sendAnswer(purpose, question.id, { replay_key, responses, confidence }),
        answered(question),
      )
    },
    notTaught: on((asked) => {
      const key = newKey()
      void perform(() => requests.sendNotTaught(asked.id, key), answered(asked))
    }),
    takeBack: on((asked) => {
      const key = newKey()
      void perform(() => requests.takeBack(asked.id, key), replaced)
    }),
    swap: on((asked) => void perform(() => requests.swapQuestion(asked.id), replaced)),
    hint: on(
      (asked) =>
        void perform(
          () => requests.openHint(asked.id),
          (next) => put({ ...sheet, question: next }),
        ),
    ),
    working: on(
      (asked) =>
        void perform(
          () => requests.showWorking(asked.id),
          (reply) => put(reply),
        ),
    ),
    fresh: on((asked) => void perform(() => requests.freshVersion(asked.id), replaced)),
    goOn: () => void perform(() => requests.goOn(purpose, id), replaced),
    finish: () => void perform(() => requests.finishRun(purpose, id), replaced),
    next: () => {
      setProblem(null)
      put({ run: sheet.run, question: sheet.next ?? null })
    },
    dismiss: () => put({ ...sheet, feedback: undefined }),
  }
}
