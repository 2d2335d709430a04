import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { storage } from '../../testing/storage'
import { acknowledged, changed, type Held, heldOf, keepHeld, placeKey, stateOf } from './kept'
import type { Place } from './queries'

const KEY = placeKey('vendaval:7:', 12, 3)

const place = (more: Partial<Place> = {}) =>
  ({
    number: 3,
    counter: 4,
    seconds: 10,
    seen: true,
    saved_at: '2026-03-02T09:00:00Z',
    state: 'empty',
    data: { responses: {} },
    read: [],
    question: { closed: false, parts: [{ id: 'a' }, { id: 'b' }] },
    ...more,
  }) as unknown as Place

const saved = (read: Place['read'] = []) => ({ saved_at: '2026-03-02T09:01:00Z', read })
const typed = (held: Held, a: string) => changed(held, { responses: { a } })

describe('what an attempt keeps in the browser', () => {
  beforeEach(() => void storage())
  afterEach(() => vi.unstubAllGlobals())

  it('brings back what the server never acknowledged, and nothing older', () => {
    const held = typed(heldOf(place(), KEY), 'first')
    keepHeld(KEY, held)
    const back = heldOf(place(), KEY)
    expect([back.data.responses, back.counter, back.waiting]).toEqual([{ a: 'first' }, 5, true])
    const data = { ...place().data, responses: { a: 'elsewhere' } }
    const newer = heldOf(place({ counter: 5, data }), KEY)
    expect([newer.data.responses, newer.waiting]).toEqual([{ a: 'elsewhere' }, false])
    expect(localStorage.getItem(KEY)).toBeNull()
  })

  it('forgets a place once the server has all of it', () => {
    const held = typed(heldOf(place(), KEY), 'first')
    keepHeld(KEY, held)
    keepHeld(KEY, acknowledged(held, held.counter, saved(), held.data))
    expect(localStorage.getItem(KEY)).toBeNull()
  })

  it('still waits with what was put down after what was acknowledged', () => {
    const sent = typed(heldOf(place(), KEY), 'first')
    const later = typed(sent, 'second')
    const now = acknowledged(later, sent.counter, saved(), sent.data)
    expect([now.waiting, now.counter]).toEqual([true, later.counter])
    expect(acknowledged(now, later.counter, saved(), later.data).waiting).toBe(false)
  })

  it('tells one account and attempt from another', () => {
    keepHeld(KEY, typed(heldOf(place(), KEY), 'mine'))
    expect(heldOf(place(), placeKey('vendaval:8:', 12, 3)).waiting).toBe(false)
    expect(heldOf(place(), placeKey('vendaval:7:', 13, 3)).waiting).toBe(false)
  })

  it('says how far a place is answered', () => {
    const held = heldOf(place(), KEY)
    const at = (a: string, b: string) => stateOf(place(), changed(held, { responses: { a, b } }))
    expect([at('', ' '), at('x', ''), at('x', 'y')]).toEqual(['empty', 'partly', 'answered'])
    expect(stateOf(place(), changed(held, { on_paper: true }))).toBe('paper')
    const both = changed(held, { responses: { a: 'x', b: '13 h?' } })
    const says = 'Write it like this: 09:10.'
    const read = saved([{ id: 'b', state: 'unreadable', says }])
    const unread = acknowledged(both, both.counter, read, both.data)
    expect([stateOf(place(), unread), unread.read.b?.says]).toEqual(['unreadable', says])
    // Changed since: what was read of it no longer holds.
    expect(stateOf(place(), changed(unread, { responses: { a: 'x', b: '13:50' } }))).toBe(
      'answered',
    )
    const half = saved([{ id: 'b', state: 'incomplete', says: '1 cell still to fill.' }])
    expect(stateOf(place(), acknowledged(both, both.counter, half, both.data))).toBe('partly')
    expect(stateOf(place({ seen: false }), { ...held, seen: false })).toBe('not_seen')
    expect(stateOf(place({ state: 'sent' }), held)).toBe('sent')
  })
})
