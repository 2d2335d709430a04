/**
 * This browser's storage, which may be full or forbidden: then nothing is kept, and the page goes
 * on as it is.
 */
export function readKept(key: string): string | null {
  try {
    return localStorage.getItem(key)
  } catch {
    return null
  }
}

/** Whether it could be kept. */
export function keep(key: string, value: string): boolean {
  try {
    localStorage.setItem(key, value)
    return true
  } catch {
    return false
  }
}

/** Forget one key. */
export function forget(key: string) {
  try {
    localStorage.removeItem(key)
  } catch {
    // What cannot be reached was not kept either.
  }
}

/** Forget every key that begins so. */
export function forgetAll(prefix: string) {
  try {
    for (const key of Object.keys(localStorage)) if (key.startsWith(prefix)) forget(key)
  } catch {
    // As above.
  }
}

/** A value kept as JSON, or nothing when there is none that can be read. */
export function readJson<T>(key: string): Partial<T> {
  try {
    return JSON.parse(readKept(key) ?? '{}') as Partial<T>
  } catch {
    return {}
  }
}
