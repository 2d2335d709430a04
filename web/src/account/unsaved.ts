/** What was typed on this page and is not saved: asked before somebody leaves it. */
const typed = new Set<string>()

const ask = (event: BeforeUnloadEvent) => event.preventDefault()

/** Note that something was typed. */
export function noteTyped(key: string) {
  if (typed.size === 0) window.addEventListener('beforeunload', ask)
  typed.add(key)
}

/** It is saved, thrown away, or its page is left. */
export function noteDone(key: string) {
  typed.delete(key)
  if (typed.size === 0) window.removeEventListener('beforeunload', ask)
}

export const somethingUnsaved = () => typed.size > 0
