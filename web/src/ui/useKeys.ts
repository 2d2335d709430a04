import { useEffect, useRef } from 'react'
import { usePreferences } from './preferences'

function typing(target: EventTarget | null): boolean {
  if (!(target instanceof HTMLElement)) return false
  if (
    target.isContentEditable ||
    target.localName === 'math-field' ||
    target instanceof HTMLTextAreaElement ||
    target instanceof HTMLSelectElement
  )
    return true
  return (
    target instanceof HTMLInputElement && !['radio', 'checkbox', 'button'].includes(target.type)
  )
}

/**
 * Single-key actions. They do nothing while typing, with a modifier held, in an open dialog, or
 * when the learner has switched them off (WCAG 2.1.4).
 */
export function useKeys(actions: Record<string, (() => void) | undefined>) {
  const { letterKeys } = usePreferences()
  const latest = useRef(actions)
  latest.current = actions
  useEffect(() => {
    function onKey(event: KeyboardEvent) {
      if (event.ctrlKey || event.metaKey || event.altKey || event.repeat) return
      if (typing(event.target) || document.querySelector('[role="dialog"]')) return
      if (!letterKeys && /^[a-z]$/i.test(event.key)) return
      const action = latest.current[event.key.toLowerCase()]
      if (!action) return
      event.preventDefault()
      action()
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [letterKeys])
}
