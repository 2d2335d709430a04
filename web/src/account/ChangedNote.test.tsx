// @vitest-environment happy-dom
import { cleanup, render, screen, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { ChangedNote } from './ChangedNote'

afterEach(cleanup)

describe('ChangedNote', () => {
  it('is put together with what somebody else saved, field by field', async () => {
    const settle = vi.fn()
    const conflict = {
      found: {
        merged: {},
        both: [{ path: 'title', mine: 'Tides', theirs: 'Tides 2' }],
        taken: ['minutes'],
      },
      settle,
      takeTheirs: vi.fn(),
    }
    render(<ChangedNote conflict={conflict as never} label={(path) => path} />)
    const alert = screen.getByRole('alert')
    expect(alert.textContent).toContain('minutes')
    await userEvent.click(within(alert).getByLabelText(/Tides 2/))
    await userEvent.click(within(alert).getByRole('button', { name: 'Save both' }))
    expect(settle).toHaveBeenCalledWith({ title: 'theirs' })
  })
})
