import { describe, expect, it } from 'vitest'
import type { Question, Run } from '../api/client'
import { onward } from './onward'
import type { Sheet } from './requests'

const next = () => undefined
const goOn = () => undefined
const onRead = () => undefined
const onTryAgain = () => undefined
const onTimeUp = () => undefined

function step(purpose: Run['purpose'], more: Partial<Sheet> = {}, closed = true, read = false) {
  const run = { purpose, study_first: null, ...more.run } as Run
  const sheet = { ...more, run, question: null } as Sheet
  const asked = { closed } as Question
  return onward(sheet, asked, { next, goOn }, { read, onRead, onTryAgain, onTimeUp })
}

describe('what follows an answer', () => {
  it('is another try while the question is open', () => {
    expect(step('practice', {}, false)?.label).toBe('Try again')
    const feedback = { verdict: 'not_counted' } as Sheet['feedback']
    expect(step('practice', { feedback }, false)?.label).toBe('Back to the question')
  })

  it('is the next question, or the end', () => {
    expect(step('practice', { next: {} as Question })?.act).toBe(next)
    expect(step('diagnostic')?.label).toBe('See your levels')
    expect(step('missed')).toBeNull()
  })

  it('is the way back to the minutes once they are over', () => {
    const run = { time_is_up: true } as Run
    expect(step('practice', { run, next: {} as Question })?.act).toBe(onTimeUp)
    expect(step('practice', { run }, false)?.act).toBe(onTryAgain)
  })

  it('is reading first where an idea was missed again and again', () => {
    const run = { study_first: { title: 'Twelfths' } } as Run
    expect(step('practice', { run })?.act).toBe(onRead)
    expect(step('practice', { run }, true, true)?.act).toBe(goOn)
  })
})
