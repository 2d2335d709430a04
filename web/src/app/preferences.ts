import { useSyncExternalStore } from 'react'

export interface Preferences {
  textSize: number
  theme: 'system' | 'light' | 'dark'
  letterKeys: boolean
}

export const TEXT_SIZES = [90, 100, 115, 130, 150, 175, 200]
const KEY = 'vendaval:preferences'
const DEFAULTS: Preferences = { textSize: 100, theme: 'system', letterKeys: true }

function read(): Preferences {
  try {
    return {
      ...DEFAULTS,
      ...(JSON.parse(localStorage.getItem(KEY) ?? '{}') as Partial<Preferences>),
    }
  } catch {
    return DEFAULTS
  }
}

let current = read()
const listeners = new Set<() => void>()
const darkSystem = window.matchMedia('(prefers-color-scheme: dark)')

/** Puts the preferences on the page. */
export function applyPreferences() {
  const dark = current.theme === 'dark' || (current.theme === 'system' && darkSystem.matches)
  document.documentElement.dataset.theme = dark ? 'dark' : 'light'
  document.documentElement.style.setProperty('--text-scale', String(current.textSize / 100))
}

darkSystem.addEventListener('change', applyPreferences)

export function setPreferences(change: Partial<Preferences>) {
  current = { ...current, ...change }
  localStorage.setItem(KEY, JSON.stringify(current))
  applyPreferences()
  for (const listener of listeners) listener()
}

export function usePreferences(): Preferences {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener)
      return () => listeners.delete(listener)
    },
    () => current,
  )
}
