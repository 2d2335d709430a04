// @vitest-environment happy-dom
import { cleanup, render, screen } from '@testing-library/react'
import { afterEach, describe, expect, it } from 'vitest'
import { DriftBar } from './DriftBar'
import { Sign } from './Sign'

afterEach(cleanup)

describe('DriftBar', () => {
  const reading = { level: 62, middle: 62.4, low: 55.2, high: 69.8, target: 80 }

  it('says in a sentence what it draws', () => {
    render(<DriftBar name="Tides" reading={reading} past={[40, 50]} />)
    const bar = screen.getByRole('img', {
      name: 'Tides: level 62, probably between 55 and 70, target 80',
    })
    expect(bar.querySelectorAll('circle').length).toBe(2)
  })

  it('gives no level, and draws no needle, while too little is known', () => {
    render(<DriftBar name="Tides" reading={{ ...reading, level: null, low: 20, high: 90 }} />)
    const bar = screen.getByRole('img')
    expect(bar.getAttribute('aria-label')).toContain('between 20 and 90')
    expect(bar.getAttribute('aria-label')).not.toContain('level 62')
    expect(bar.querySelectorAll('rect').length).toBe(3)
  })
})

describe('Sign', () => {
  it('has a word for who cannot see it, unless a word stands beside it', () => {
    const { container, rerender } = render(<Sign kind="partly" />)
    expect(container.textContent).toBe('Partly right: ')
    rerender(<Sign kind="partly" word={false} />)
    expect(container.textContent).toBe('')
  })
})
