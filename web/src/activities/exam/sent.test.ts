import { describe, expect, it } from 'vitest'
import type { Question } from '../../api/client'
import { lastAnswers, sentOf, sentWords } from './sent'

const question = (more: Partial<Question>, tries = 1, answer = '4.2') =>
  ({
    states: [{ id: 'a', tries, answer }],
    outcome: null,
    closed: false,
    tries_left: 2,
    ...more,
  }) as Question

describe('a question that is sent by itself', () => {
  it('says how it stands as far as the test tells, and what is left', () => {
    for (const [more, tries, words] of [
      [{}, 0, 'not tried'],
      [{ outcome: 'right', closed: true, tries_left: 0 }, 1, 'right'],
      [{ outcome: 'partly' }, 2, 'partly right, two tries left'],
      [{ outcome: 'wrong', tries_left: 1 }, 3, 'wrong, one try left'],
      [{ outcome: 'wrong', closed: true, tries_left: 0 }, 4, 'wrong, no tries left'],
      [{ closed: true, tries_left: 0 }, 1, 'sent'],
      [{}, 1, 'sent, two tries left'],
    ] as const)
      expect(sentWords(question(more, tries))).toBe(words)
  })

  it('shows again what was sent', () => {
    expect(lastAnswers(question({}))).toEqual({ a: '4.2' })
    expect(lastAnswers(question({}, 0, ''))).toEqual({})
    expect(sentOf(question({}, 0))).toBe('not_tried')
  })
})
