import { t } from '@lingui/core/macro'
import { useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { useAccountId, useCourse } from '../account/course'
import { keptFor } from '../account/session'
import { type Answer, ApiError, type Question, ServerTrouble, Unreachable } from '../api/client'
import { keys } from '../api/keys'
import { acknowledge, type Draft, draftPlace, forgetDraft, keyFor, newKey } from '../player/draft'
import { requestsOf, type Sheet } from './requests'

const RETRY_MS = 4000

export interface RunActions {
  busy: boolean
  /** Why the last action did not work; the typed answer is kept. */
  problem: string | null
  /** Does it again, where trouble on the server was the reason. */
  again: (() => void) | null
  /** An answer that waits for the connection. */
  waiting: boolean
  answer: (draft: Draft) => void
  notTaught: () => void
  undo: () => void
  swap: () => void
  hint: () => void
  working: () => void
  fresh: () => void
  finish: () => void
  next: () => void
  /** Once the study section that comes first was opened. */
  goOn: () => void
  dismiss: () => void
  /** Something was pressed while the step before was still under way; it was not done. */
  tooSoon: () => void
  soon: boolean
}

/** The actions of a run on its question. Replies go into the query cache, where the screen reads. */
export function useRun(sheet: Sheet, question: Question | null): RunActions {
  const cache = useQueryClient()
  const course = useCourse()
  const owner = keptFor(useAccountId())
  const requests = useMemo(() => requestsOf(course), [course])
  const { id } = sheet.run
  const [busy, setBusy] = useState(false)
  const [problem, setProblem] = useState<string | null>(null)
  const [soon, setSoon] = useState(false)
  const [again, setAgain] = useState<(() => void) | null>(null)
  const [unsent, setUnsent] = useState<(() => void) | null>(null)
  const running = useRef(false)

  const put = useCallback(
    (next: Sheet) => cache.setQueryData(keys.run(course, id), next),
    [cache, course, id],
  )
  const changed = useCallback(() => {
    // A miss just mended must not be offered from memory.
    cache.removeQueries({ queryKey: keys.misses(course) })
    void cache.invalidateQueries({ queryKey: keys.course(course) })
  }, [cache, course])

  const perform = useCallback(
    async <T>(send: () => Promise<T>, done: (result: T) => void, told: string | null = null) => {
      if (running.current) return setSoon(true)
      running.current = true
      let gone: string | null = null
      setBusy(true)
      setProblem(told)
      setAgain(null)
      try {
        const result = await send()
        setUnsent(null)
        done(result)
        changed()
      } catch (error) {
        if (error instanceof Unreachable) setUnsent(() => () => void perform(send, done))
        else if (error instanceof ServerTrouble) {
          setUnsent(null)
          setProblem(
            t`${error.message} Your answer is kept here. If it happens again, save and exit, and come back later.`,
          )
          setAgain(() => () => void perform(send, done))
        } else if (error instanceof ApiError) {
          setUnsent(null)
          setProblem(error.message)
          if (error.code === 'question_closed')
            void cache.refetchQueries({ queryKey: keys.run(course, id) })
          if (error.code === 'not_live' || error.code === 'open_in_test') gone = error.message
          if (error.code === 'signed_out') void cache.invalidateQueries({ queryKey: keys.session })
        } else throw error
      } finally {
        running.current = false
        setBusy(false)
        setSoon(false)
      }
      if (gone) void perform(() => requests.goOn(id), put, gone)
    },
    [cache, changed, put, requests, course, id],
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
    const place = draftPlace(owner, asked.id)
    acknowledge(place)
    if (reply.question.closed) forgetDraft(place)
    put(reply)
  }
  const on = (act: (asked: Question) => void) => () => {
    if (question) act(question)
  }

  return {
    busy,
    problem,
    again,
    waiting: unsent !== null,
    answer: (draft) => {
      if (!question) return
      const { responses, confidence, working } = draft
      const replay_key = keyFor(draftPlace(owner, question.id), draft)
      const body = { replay_key, responses, confidence, working, not_taught: false }
      void perform(() => requests.answer(question.id, body), answered(question))
    },
    notTaught: on((asked) => {
      const body = {
        replay_key: newKey(),
        responses: {},
        confidence: null,
        working: null,
        not_taught: true,
      }
      void perform(() => requests.answer(asked.id, body), answered(asked))
    }),
    undo: on((asked) => {
      const key = newKey()
      void perform(() => requests.undo(asked.id, key), put)
    }),
    swap: on((asked) => void perform(() => requests.swap(asked.id), put)),
    hint: on(
      (asked) =>
        void perform(
          () => requests.hint(asked.id),
          (next) => put({ ...sheet, ...next }),
        ),
    ),
    working: on((asked) => void perform(() => requests.working(asked.id), put)),
    fresh: on((asked) => void perform(() => requests.fresh(asked.id), put)),
    goOn: () => void perform(() => requests.goOn(id), put),
    finish: () => void perform(() => requests.finish(id), put),
    next: () => {
      setProblem(null)
      put({ run: sheet.run, question: sheet.next ?? null })
    },
    dismiss: () => put({ ...sheet, feedback: undefined }),
    tooSoon: () => setSoon(running.current),
    soon,
  }
}
