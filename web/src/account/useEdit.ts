import { useMutation } from '@tanstack/react-query'
import { ApiError, type Standing } from '../api/client'
import { type Choice, compare, type Merge, merged } from './merging'
import { useKept } from './useKept'

/** What is typed, what it began from, and the version of that. */
interface Begun<F> {
  form: F
  base: object
  version: string
}

interface Options<F extends object, R> {
  /** Where in the application it is: what is typed is kept under this. */
  place: string
  opened: F
  version: string
  save: (form: F, version: string) => Promise<R>
  /** What stands once it is saved; null where the page is left then. */
  stands: (stored: R) => { form: F; version: string } | null
  onSaved: (stored: R) => void
  /** The form in the shape it is sent in, and back, where that is another. */
  sent?: (form: F) => object
  formed?: (body: object, form: F) => F
  /** Branches of what is sent that only make sense as a whole. */
  whole?: string[]
}

export interface Conflict {
  found: Merge
  settle: (chosen: Record<string, Choice>) => void
  takeTheirs: () => void
}

/**
 * Something that others may change too: kept while it is typed, sent with the version it began
 * from, and put together with what others stored in between. Nobody's change is lost.
 */
export function useEdit<F extends object, R>(options: Options<F, R>) {
  const { sent = (form: F) => form, formed = (body: object) => body as F, whole = [] } = options
  const kept = useKept<Begun<F>>(`edit:${options.place}`, () => ({
    form: options.opened,
    base: sent(options.opened),
    version: options.version,
  }))
  const now = kept.value
  const save = useMutation({
    mutationFn: (from: Begun<F>) => options.save(from.form, from.version),
    onSuccess: (stored, from) => {
      const next = options.stands(stored)
      kept.saved(next ? { ...next, base: sent(next.form) } : from)
      options.onSaved(stored)
    },
  })
  const standing = save.error instanceof ApiError ? save.error.standing : null
  return {
    form: now.form,
    restored: kept.restored,
    discard: () => {
      save.reset()
      kept.discard()
    },
    set: (next: Partial<F>) => {
      save.reset()
      kept.set({ ...now, form: { ...now.form, ...next } })
    },
    /** instead: another form than the one that stands. */
    save: (instead?: F) => {
      const from = instead ? { ...now, form: instead } : now
      if (instead) kept.set(from)
      save.mutate(from)
    },
    isPending: save.isPending,
    isSuccess: save.isSuccess,
    error: standing ? null : save.error,
    conflict: standing && conflictOf(standing),
  }

  function conflictOf({ current, version }: Standing): Conflict {
    const mine = sent(now.form)
    const found = compare(now.base, mine, current, whole)
    const go = (body: object): Begun<F> => ({
      form: formed(body, now.form),
      base: current,
      version,
    })
    return {
      found,
      settle: (chosen) => {
        const next = go(merged(mine, current, found, chosen))
        kept.set(next)
        save.mutate(next)
      },
      takeTheirs: () => {
        kept.saved(go(current))
        save.reset()
      },
    }
  }
}
