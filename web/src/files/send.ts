import { ApiError, type Schemas, ServerTrouble, Unreachable } from '../api/client'

type FileOut = Schemas['FileOut']

/** What sending asks of the server. */
export interface Calls {
  list: () => Promise<{ files: FileOut[] }>
  start: (body: { part: string; name: string; size: number }) => Promise<FileOut>
  chunk: (file: number, piece: number, data: Blob) => Promise<FileOut>
}

const WAITS = [1_000, 2_000, 4_000, 8_000]
const BUSY = 'one_at_a_time'
/** How a busy server says that it takes nothing more for a moment. */
const LATER = 429

const passes = (error: unknown) =>
  error instanceof Unreachable ||
  error instanceof ServerTrouble ||
  (error instanceof ApiError && (error.code === BUSY || error.status === LATER))

/** Do something until it is done: a lost connection only makes it later. */
async function untilDone<T>(
  act: () => Promise<T>,
  wait: (ms: number) => Promise<void>,
  onLost: (lost: boolean) => void,
): Promise<T> {
  for (let tried = 0; ; tried += 1) {
    try {
      const done = await act()
      onLost(false)
      return done
    } catch (error) {
      if (!passes(error)) throw error
      onLost(error instanceof Unreachable)
      await wait(WAITS[Math.min(tried, WAITS.length - 1)] ?? 0)
    }
  }
}

/** Wait some time, or until there is a connection again. */
const aWhile = (ms: number) =>
  new Promise<void>((done) => {
    const timer = window.setTimeout(finish, ms)
    function finish() {
      window.clearTimeout(timer)
      window.removeEventListener('online', finish)
      done()
    }
    window.addEventListener('online', finish)
  })

/**
 * Send a file piece by piece. What was begun before under the same name is gone on with: only what
 * is missing is sent. Throws what the server refuses, and `stopped` when it is given up.
 */
export async function sendFile(
  calls: Calls,
  part: string,
  file: File,
  on: { progress: (share: number) => void; lost: (lost: boolean) => void; stopped: () => boolean },
  wait = aWhile,
): Promise<FileOut> {
  const { files } = await untilDone(calls.list, wait, on.lost)
  const begun = files.find(
    (one) =>
      one.arrived === null && one.part === part && one.name === file.name && one.size === file.size,
  )
  const body = { part, name: file.name, size: file.size }
  let now = begun ?? (await untilDone(() => calls.start(body), wait, on.lost))
  const all = Math.max(1, Math.ceil(file.size / now.chunk))
  for (const piece of now.missing.length ? now.missing : [0]) {
    if (on.stopped()) break
    const data = file.slice(piece * now.chunk, (piece + 1) * now.chunk)
    const id = now.id
    now = await untilDone(() => calls.chunk(id, piece, data), wait, on.lost)
    on.progress(1 - now.missing.length / all)
  }
  return now
}
