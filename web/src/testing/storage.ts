import { vi } from 'vitest'

/** A browser's storage; `broken` as when it is full or forbidden. */
export function storage(broken = false) {
  const kept = new Map<string, string>()
  const refuse = () => {
    throw new DOMException('the quota is used up', 'QuotaExceededError')
  }
  vi.stubGlobal('localStorage', {
    getItem: broken ? refuse : (key: string) => kept.get(key) ?? null,
    setItem: broken ? refuse : (key: string, value: string) => kept.set(key, value),
    removeItem: broken ? refuse : (key: string) => kept.delete(key),
  })
  return kept
}
