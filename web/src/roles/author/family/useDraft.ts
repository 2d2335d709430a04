import { t } from '@lingui/core/macro'
import { useEffect, useRef, useState } from 'react'
import { type Choice, compare, type Json, merged } from '../../../account/merging'
import type { Conflict } from '../../../account/useEdit'
import { useKept } from '../../../account/useKept'
import { ApiError, type Standing } from '../../../api/client'
import { lookAt, saveDraft, type Workbench } from './queries'

export type Fields = { [key: string]: Json | undefined }

/** What is typed, in the form or in the file, and what it began from. */
interface Typed {
  as: 'form' | 'file'
  data: Fields | null
  text: string
  base: { data: Fields | null; text: string }
  version: string
}

export type Saving = 'saved' | 'saving' | 'failed' | 'clash'

const PAUSE_MS = 90
const AGAIN_MS = 4000
const [ROUNDS, ROUND_MS] = [100, 40]

const typedOf = ({ data, text, version }: Workbench, as: Typed['as']): Typed => {
  const fields = data as Fields | null
  return { as, data: fields, text, base: { data: fields, text }, version }
}

/**
 * A draft as somebody types it: saved at every pause, and put together with what others saved in
 * between. What couldn't be sent is kept in this browser, and sent when it can be.
 */
export function useDraft(course: string, opened: Workbench) {
  const [page, setPage] = useState(opened)
  const [saving, setSaving] = useState<Saving>('saved')
  const [error, setError] = useState<Error | null>(null)
  const [clash, setClash] = useState<Standing | null>(null)
  const kept = useKept<Typed>(`draft:${course}:${opened.key}`, () =>
    typedOf(opened, opened.data === null ? 'file' : 'form'),
  )
  const now = useRef(kept.value)
  const seed = useRef(1)
  const dirty = useRef(kept.restored)
  const busy = useRef(false)
  const failed = useRef(false)
  const timer = useRef(0)

  const stand = (reply: Workbench, as = now.current.as) => {
    now.current = typedOf(reply, reply.data === null ? 'file' : as)
    dirty.current = false
    failed.current = false
    kept.saved(now.current)
    setPage(reply)
    setSaving('saved')
    setError(null)
    setClash(null)
  }
  const type = (next: Partial<Typed>, pause = PAUSE_MS) => {
    now.current = { ...now.current, ...next }
    dirty.current = true
    kept.set(now.current)
    setSaving('saving')
    plan(pause)
  }
  const plan = (pause: number) => {
    window.clearTimeout(timer.current)
    timer.current = window.setTimeout(() => void send(), pause)
  }
  const send = async () => {
    if (busy.current || !dirty.current) return
    busy.current = true
    dirty.current = false
    failed.current = false
    setSaving('saving')
    const sent = now.current
    const what = sent.as === 'form' && sent.data ? { data: sent.data } : { text: sent.text }
    try {
      const body = { version: sent.version, seed: seed.current, ...what }
      took(await saveDraft(course, opened.key, body as Parameters<typeof saveDraft>[2]))
    } catch (why) {
      refused(why as Error)
    } finally {
      busy.current = false
    }
  }
  const took = (reply: Workbench) => {
    if (!dirty.current) return stand(reply)
    // More was typed meanwhile: only what it begins from is new.
    const { version, text } = reply
    now.current = { ...now.current, version, base: { data: reply.data as Fields | null, text } }
    kept.set(now.current)
    setPage(reply)
    plan(0)
  }
  const refused = (why: Error) => {
    dirty.current = true
    failed.current = true
    const standing = why instanceof ApiError ? why.standing : null
    if (standing) return meet(standing)
    setError(why)
    setSaving('failed')
    if (!(why instanceof ApiError)) plan(AGAIN_MS)
  }
  const meet = (standing: Standing) => {
    const found = difference(now.current, standing)
    if (found.both.length === 0) return settle(standing, {})
    setClash(standing)
    setSaving('clash')
  }
  const settle = (standing: Standing, chosen: Record<string, Choice>) => {
    const found = difference(now.current, standing)
    const { as } = now.current
    const mine = as === 'form' ? now.current.data : { text: now.current.text }
    const theirs = part(as, standing)
    const next = merged(mine ?? {}, theirs, found, chosen)
    const base = standing.current as Typed['base']
    setClash(null)
    type(
      {
        ...(as === 'form' ? { data: next as Fields } : { text: (next as { text: string }).text }),
        base,
        version: standing.version,
      },
      0,
    )
  }
  /** Waits until what was typed is saved, or can’t be; the version that stands then. */
  const settled = async () => {
    for (let round = 0; round < ROUNDS; round++) {
      window.clearTimeout(timer.current)
      if (busy.current) await new Promise((done) => window.setTimeout(done, ROUND_MS))
      else if (dirty.current) await send()
      if (failed.current || !(busy.current || dirty.current)) break
    }
    return now.current.version
  }
  // What is left in the page when it closes is sent; what can't be stays in this browser.
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, and what it reads are refs
  useEffect(
    () => () => {
      window.clearTimeout(timer.current)
      void send()
    },
    [],
  )
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, for what an earlier page left
  useEffect(() => {
    if (dirty.current) plan(0)
  }, [])
  const conflict: Conflict | null = clash && {
    found: difference(now.current, clash),
    settle: (chosen) => settle(clash, chosen),
    takeTheirs: () =>
      void lookAt(course, opened.key, seed.current).then((one) => stand(one), setError),
  }
  return {
    page,
    data: kept.value.data,
    text: kept.value.text,
    as: kept.value.as,
    saving,
    error,
    conflict,
    setData: (data: Fields) => type({ data }),
    setText: (text: string) => type({ text }),
    /** Look at the form or the file: both say the same, once what was typed is saved. */
    lookAt: (as: Typed['as']) => saving === 'saved' && stand(page, as),
    /** Has the values of another version shown. */
    lookAtSeed: (next: number) => {
      seed.current = next
      lookAt(course, opened.key, next).then(
        ({ slots, version }) =>
          setPage((one) => (one.version === version ? { ...one, slots } : one)),
        setError,
      )
    },
    settled,
    /** Saves what was typed; whether that could be done. */
    ready: async () => {
      await settled()
      return !failed.current
    },
    /** What stands after something else than typing. */
    stand,
  }
}

const part = (as: Typed['as'], { current }: Standing): object => {
  const { data, text } = current as Typed['base']
  return as === 'form' ? (data ?? {}) : { text }
}

function difference(typed: Typed, standing: Standing) {
  const form = typed.as === 'form'
  const [base, mine] = form
    ? [typed.base.data ?? {}, typed.data ?? {}]
    : [{ text: typed.base.text }, { text: typed.text }]
  return compare(base, mine, part(typed.as, standing), [])
}

export const savingWords = (saving: Saving, isDraft: boolean): string =>
  ({
    saved: isDraft ? t`Draft, saved` : t`As published`,
    saving: t`Saving…`,
    failed: t`Not saved yet`,
    clash: t`Not saved yet`,
  })[saving]
