import { useSyncExternalStore } from 'react'
import { keep, readJson } from './storage'

export interface Preferences {
  textSize: number
  theme: 'system' | 'light' | 'dark'
  letterKeys: boolean
}

export const TEXT_SIZES = [90, 100, 115, 130, 150, 175, 200]
const KEY = 'vendaval:preferences'
const DEFAULTS: Preferences = { textSize: 100, theme: 'system', letterKeys: true }

let current: Preferences = { ...DEFAULTS, ...readJson<Preferences>(KEY) }
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
  keep(KEY, JSON.stringify(current))
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
