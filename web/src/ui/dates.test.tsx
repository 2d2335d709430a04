// @vitest-environment happy-dom
import { cleanup, render, screen } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { useState } from 'react'
import { afterEach, describe, expect, it } from 'vitest'
import { DateField, MomentField } from './DateField'
import { readDay, readTime, writtenDay } from './dates'

afterEach(cleanup)

const TODAY = new Date(2026, 10, 30)

describe('days as people write them', () => {
  it.each([
    ['3 Dec 2026', '2026-12-03'],
    ['Thu 3 Dec 2026', '2026-12-03'],
    ['3rd December', '2026-12-03'],
    ['29 nov', '2027-11-29'],
    ['3/12/26', '2026-12-03'],
    ['3.12.2026', '2026-12-03'],
    ['7/6/98', '1998-06-07'],
    ['2026-12-03', '2026-12-03'],
    ['29 Feb 2028', '2028-02-29'],
    ['', ''],
  ])('%s', (typed, day) => expect(readDay(typed, TODAY)).toBe(day))

  it.each(['31 Feb 2026', '12/13/2026', 'tomorrow', '3', 'D 3', '3 De'])('not %s', (typed) =>
    expect(readDay(typed, TODAY)).toBeNull(),
  )

  it('are shown with their day of the week', () =>
    expect(writtenDay('2026-12-03')).toBe('Thu 3 Dec 2026'))

  it('come with times', () => {
    expect(['18:00', '18.00', '1800', '6 pm', '12am', '7'].map(readTime)).toEqual([
      '18:00',
      '18:00',
      '18:00',
      '18:00',
      '00:00',
      '07:00',
    ])
    expect(['25:00', '9:75', 'noon', '13 pm'].map(readTime)).toEqual([null, null, null, null])
  })
})

function Held({ first = null }: { first?: string | null }) {
  const [day, setDay] = useState(first)
  return (
    <form>
      <DateField label="Exam on" day={day} onDay={setDay} />
      <output>{String(day)}</output>
    </form>
  )
}

function HeldMoment() {
  const [at, setAt] = useState<string | null>(null)
  return (
    <>
      <MomentField label="Due" at={at} usual="23:59" onAt={setAt} />
      <output>{at && new Date(at).toTimeString().slice(0, 5)}</output>
    </>
  )
}

describe('a field for a day', () => {
  it('shows what it read once it is left', async () => {
    const user = userEvent.setup()
    render(<Held />)
    await user.type(screen.getByLabelText('Exam on'), '3 Dec 2026')
    await user.tab()
    expect(screen.getByLabelText<HTMLInputElement>('Exam on').value).toBe('Thu 3 Dec 2026')
    expect(screen.getByRole('status').textContent).toBe('2026-12-03')
  })

  it('keeps what it can’t read, says so, and keeps the form from being sent', async () => {
    const user = userEvent.setup()
    render(<Held first="2026-12-03" />)
    const field = screen.getByLabelText<HTMLInputElement>('Exam on')
    await user.clear(field)
    await user.type(field, '31 Feb')
    await user.tab()
    expect(field.value).toBe('31 Feb')
    expect(screen.getByRole('alert').textContent).toBe('Write a date like 3 Dec 2026.')
    expect(field.form?.checkValidity()).toBe(false)
  })

  it('gives a day its usual time until another is typed', async () => {
    const user = userEvent.setup()
    render(<HeldMoment />)
    await user.type(screen.getByLabelText('Due'), '3 Dec 2026')
    expect(screen.getByRole('status').textContent).toBe('23:59')
    await user.clear(screen.getByLabelText('Due, time'))
    await user.type(screen.getByLabelText('Due, time'), '18:00')
    expect(screen.getByRole('status').textContent).toBe('18:00')
  })
})
