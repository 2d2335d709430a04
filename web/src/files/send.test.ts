import { describe, expect, it } from 'vitest'
import { ApiError, type Schemas, Unreachable } from '../api/client'
import { sendFile } from './send'

const CHUNK = 4
const file = new File(['abcdefghij'], 'page.pdf')

/** A server that keeps pieces, and loses the connection at some of the calls. */
function server(lostAt: number[], begun: number[] = []) {
  const has = new Set(begun)
  let calls = 0
  const sent: string[] = []
  const out = (): Schemas['FileOut'] => {
    const missing = [0, 1, 2].filter((piece) => !has.has(piece))
    const arrived = missing.length ? null : '2026-11-30T10:00:00Z'
    const more = { kind: 'pdf' as const, drawn: 0, path: '' }
    return { id: 7, part: 'p', name: 'page.pdf', size: 10, arrived, missing, chunk: CHUNK, ...more }
  }
  const reached = async <T>(act: () => T | Promise<T>) => {
    calls += 1
    if (lostAt.includes(calls)) throw new Unreachable('offline')
    return act()
  }
  return {
    sent,
    list: () => reached(() => ({ files: begun.length ? [out()] : [] })),
    start: () => reached(out),
    chunk: (_: number, piece: number, data: Blob) =>
      reached(async () => {
        sent.push(`${piece}:${await data.text()}`)
        has.add(piece)
        return out()
      }),
  }
}

const silent = { progress: () => undefined, lost: () => undefined, stopped: () => false }
const atOnce = () => Promise.resolve()

describe('sending a file', () => {
  it('goes on by itself after each lost connection, and sends every piece once', async () => {
    const calls = server([1, 3, 4, 6])
    const lost: boolean[] = []
    const shares: number[] = []
    const on = {
      ...silent,
      lost: (is: boolean) => lost.push(is),
      progress: (share: number) => shares.push(Math.round(share * 100)),
    }
    const done = await sendFile(calls, 'p', file, on, atOnce)
    expect(done.arrived).not.toBeNull()
    expect(calls.sent).toEqual(['0:abcd', '1:efgh', '2:ij'])
    expect(shares).toEqual([33, 67, 100])
    expect(lost.filter(Boolean)).toHaveLength(4)
  })

  it('sends only what is missing of a file that was begun before', async () => {
    const calls = server([], [0, 2])
    await sendFile(calls, 'p', file, silent, atOnce)
    expect(calls.sent).toEqual(['1:efgh'])
  })

  it('stops at what the server refuses, and when it is given up', async () => {
    const refused = {
      ...server([]),
      start: () => Promise.reject(new ApiError(422, 'x', 'Too large.')),
    }
    await expect(sendFile(refused, 'p', file, silent, atOnce)).rejects.toThrow('Too large.')
    const given = server([])
    await sendFile(given, 'p', file, { ...silent, stopped: () => given.sent.length > 0 }, atOnce)
    expect(given.sent).toEqual(['0:abcd'])
  })

  it('waits while another file of theirs is being read', async () => {
    const calls = server([])
    let busy = 2
    const chunk: typeof calls.chunk = (...args) =>
      busy-- > 0
        ? Promise.reject(new ApiError(409, 'one_at_a_time', 'Wait.'))
        : calls.chunk(...args)
    const done = await sendFile({ ...calls, chunk }, 'p', file, silent, atOnce)
    expect(done.missing).toEqual([])
  })
})
