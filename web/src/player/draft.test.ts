import { afterEach, describe, expect, it, vi } from 'vitest'
import { storage } from '../testing/storage'
import { acknowledge, type Draft, draftPlace, forgetDraft, keyFor, readDraft } from './draft'
import { NO_WORKING } from './strokes'

const draft = (text: string, pending: Draft['pending'] = null): Draft => ({
  responses: { height: text },
  confidence: 70,
  working: NO_WORKING,
  pending,
})

afterEach(() => vi.unstubAllGlobals())

describe('the key an answer is sent with', () => {
  it('is the same again for what was sent and not acknowledged, also after a reload', () => {
    storage()
    const place = draftPlace('vendaval:3:', 12)
    const key = keyFor(place, draft('4.7'))
    expect(keyFor(place, draft('4.7'))).toBe(key)
    expect(readDraft(place).pending?.key).toBe(key)
    expect(keyFor(place, readDraft(place))).toBe(key)
  })

  it('is another one for another answer, and after the first was acknowledged', () => {
    storage()
    const place = draftPlace('vendaval:3:', 13)
    const key = keyFor(place, draft('4.7'))
    expect(keyFor(place, draft('4.8'))).not.toBe(key)
    forgetDraft(place)
    expect(keyFor(place, draft('4.7'))).not.toBe(key)
  })

  it('is another one once the reply came, so that what has not changed is said', () => {
    storage()
    const place = draftPlace('vendaval:3:', 15)
    const key = keyFor(place, draft('4.7'))
    acknowledge(place)
    const next = keyFor(place, readDraft(place))
    expect(next).not.toBe(key)
    expect(keyFor(place, draft('4.7'))).toBe(next)
  })

  it('holds though the browser keeps nothing', () => {
    storage(true)
    const place = draftPlace('vendaval:3:', 14)
    const key = keyFor(place, draft('4.7'))
    expect(keyFor(place, draft('4.7'))).toBe(key)
    expect(readDraft(place).responses).toEqual({})
    expect(() => forgetDraft(place)).not.toThrow()
  })
})

describe('where drafts are kept', () => {
  it('is under the account, so that one never sees another’s', () => {
    expect(draftPlace('vendaval:3:', 1)).not.toBe(draftPlace('vendaval:4:', 1))
  })
})
