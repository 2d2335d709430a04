// @vitest-environment happy-dom
import { QueryClient, QueryClientProvider, useMutation, useQuery } from '@tanstack/react-query'
import { cleanup, render, screen, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { useState } from 'react'
import { MemoryRouter, Route, Routes } from 'react-router'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { ApiError, Unreachable } from '../api/client'
import { Button } from './Button'
import { Check } from './Check'
import { FieldProblems, Problem, SaveRow, TextField } from './Field'
import { type Filter, FilterRow, filtered } from './FilterRow'
import { Html } from './Html'
import { KeptNote } from './KeptNote'
import { Sheet } from './Sheet'
import { Loaded } from './states'
import { TextLink } from './TextLink'

afterEach(cleanup)

const failing = (fields: Record<string, string>, detail = 'That cannot be saved.') =>
  new ApiError(422, 'invalid', detail, fields)

function NameForm() {
  const [name, setName] = useState('')
  return <TextField label="Name" value={name} onText={setName} />
}

function SaveForm({ saving }: { saving: Promise<unknown> }) {
  const save = useMutation({ mutationFn: () => saving })
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault()
        save.mutate()
      }}
    >
      <SaveRow save={save}>Save test</SaveRow>
    </form>
  )
}

function Page({ ask }: { ask: () => Promise<string> }) {
  const query = useQuery({ queryKey: ['x'], queryFn: ask, retry: false })
  return (
    <Loaded query={query} what="the plan">
      {(data) => <p>{data}</p>}
    </Loaded>
  )
}

describe('Button', () => {
  it('is pressed by mouse and key, submits nothing, and keeps its key out of its name', async () => {
    const press = vi.fn()
    const submit = vi.fn()
    render(
      <form onSubmit={submit}>
        <Button hint="H" onClick={press}>
          Next hint
        </Button>
      </form>,
    )
    const button = screen.getByRole('button', { name: 'Next hint' })
    await userEvent.click(button)
    button.focus()
    await userEvent.keyboard('{Enter}')
    expect(press).toHaveBeenCalledTimes(2)
    expect(submit).not.toHaveBeenCalled()
  })
})

describe('Field', () => {
  it('is found by its label and hands on what is typed', async () => {
    render(<NameForm />)
    const field = screen.getByLabelText('Name')
    await userEvent.type(field, 'Inês')
    expect(field).toHaveProperty('value', 'Inês')
  })

  it('says every field at fault once, in words', () => {
    render(
      <Problem
        error={failing({ 'body.rules.pass_mark': 'from 0 to 100', 'body.title': 'empty' })}
      />,
    )
    const alert = screen.getByRole('alert')
    expect(alert.textContent).toContain('That cannot be saved.')
    const items = within(alert).getAllByRole('listitem')
    expect(items.map((one) => one.textContent)).toEqual([
      'Rules, pass mark: from 0 to 100',
      'Title: empty',
    ])
    cleanup()
    render(<Problem error={failing({ 'body.title': 'Too long.' }, 'Too long.')} />)
    expect(screen.queryAllByRole('listitem')).toEqual([])
    cleanup()
    render(<FieldProblems problems={{}} />)
    expect(document.body.textContent).toBe('')
  })

  it('says that it saved, and cannot be pressed while it does', async () => {
    let done = () => {}
    const saving = new Promise<void>((resolve) => {
      done = resolve
    })
    render(
      <QueryClientProvider client={new QueryClient()}>
        <SaveForm saving={saving} />
      </QueryClientProvider>,
    )
    await userEvent.click(screen.getByRole('button', { name: 'Save test' }))
    expect(screen.getByRole('button')).toHaveProperty('disabled', true)
    done()
    expect(await screen.findByText('Saved.')).toBeTruthy()
    expect(screen.getByRole('button')).toHaveProperty('disabled', false)
  })
})

describe('Loaded', () => {
  const shown = (ask: () => Promise<string>) =>
    render(
      <QueryClientProvider client={new QueryClient()}>
        <Page ask={ask} />
      </QueryClientProvider>,
    )

  it('shows what loads, then the data', async () => {
    shown(() => Promise.resolve('A plan'))
    expect(screen.getByRole('status').textContent).toContain('the plan')
    expect(await screen.findByText('A plan')).toBeTruthy()
  })

  it('asks again after a lost connection, and offers nothing for what is not there', async () => {
    const ask = vi.fn(() => Promise.reject<string>(new Unreachable()))
    shown(ask)
    const alert = await screen.findByRole('alert')
    ask.mockImplementation(() => Promise.resolve('Back'))
    await userEvent.click(within(alert).getByRole('button'))
    expect(await screen.findByText('Back')).toBeTruthy()
    cleanup()
    shown(() => Promise.reject(new ApiError(404, 'not_found', 'There is no such page.')))
    expect(within(await screen.findByRole('alert')).queryByRole('button')).toBeNull()
  })
})

describe('TextLink', () => {
  it('goes there without loading the page', async () => {
    render(
      <MemoryRouter>
        <Routes>
          <Route path="/" element={<TextLink to="/plan">Your plan</TextLink>} />
          <Route path="/plan" element={<h1>The plan</h1>} />
        </Routes>
      </MemoryRouter>,
    )
    await userEvent.click(screen.getByRole('link', { name: 'Your plan' }))
    expect(screen.getByRole('heading', { name: 'The plan' })).toBeTruthy()
  })
})

describe('Html', () => {
  it('shows text with its marks, in a line or as a block', () => {
    render(<Html html="<strong>Mind</strong> the tide" inline />)
    expect(screen.getByText('Mind').tagName).toBe('STRONG')
  })
})

describe('Check', () => {
  it('is ticked by its words, unless it is disabled', async () => {
    const set = vi.fn()
    render(
      <Check on={false} set={set}>
        By mail
      </Check>,
    )
    await userEvent.click(screen.getByText('By mail'))
    expect(set).toHaveBeenCalledWith(true)
    cleanup()
    render(<Check on set={set} disabled label="By mail" />)
    await userEvent.click(screen.getByRole('checkbox', { name: 'By mail' }))
    expect(set).toHaveBeenCalledTimes(1)
  })
})

describe('Sheet', () => {
  it('has a name, holds the focus, and closes with Escape or its button', async () => {
    const close = vi.fn()
    render(
      <Sheet open onOpenChange={close} title="Ask for help">
        <input aria-label="Question" />
      </Sheet>,
    )
    const dialog = screen.getByRole('dialog', { name: 'Ask for help' })
    expect(dialog.contains(document.activeElement)).toBe(true)
    await userEvent.keyboard('{Escape}')
    await userEvent.click(within(dialog).getByRole('button', { name: 'Close' }))
    expect(close.mock.calls).toEqual([[false], [false]])
  })
})

describe('FilterRow', () => {
  const filters: Filter<number>[] = [
    ['all', 'All', () => true],
    ['even', 'Even', (n) => n % 2 === 0],
  ]

  it('counts what each filter keeps, and says which one is on', async () => {
    const choose = vi.fn()
    render(<FilterRow all={[1, 2, 3, 4]} filters={filters} chosen="all" onChoose={choose} />)
    expect(screen.getByRole('button', { pressed: true }).textContent).toBe('All 4')
    await userEvent.click(screen.getByRole('button', { name: 'Even 2' }))
    expect(choose).toHaveBeenCalledWith('even')
    expect(filtered([1, 2, 3, 4], filters, 'even')).toEqual([2, 4])
    expect(filtered([1, 2], filters, 'gone')).toEqual([1, 2])
  })
})

describe('FilterRow without anything to keep', () => {
  it('leaves a filter out, unless it is the one that is on', () => {
    const odd: Filter<number>[] = [
      ['all', 'All', () => true],
      ['odd', 'Odd', (n) => n % 2 === 1],
    ]
    const { rerender } = render(
      <FilterRow all={[2, 4]} filters={odd} chosen="all" onChoose={vi.fn()} />,
    )
    expect(screen.queryByRole('button', { name: /Odd/ })).toBeNull()
    rerender(<FilterRow all={[2, 4]} filters={odd} chosen="odd" onChoose={vi.fn()} />)
    expect(screen.getByRole('button', { pressed: true }).textContent).toBe('Odd 0')
  })
})

describe('what was typed', () => {
  it('is offered again, and thrown away when asked', async () => {
    const discard = vi.fn()
    const { container, rerender } = render(<KeptNote restored={false} onDiscard={discard} />)
    expect(container.textContent).toBe('')
    rerender(<KeptNote restored onDiscard={discard} />)
    await userEvent.click(within(screen.getByRole('status')).getByRole('button'))
    expect(discard).toHaveBeenCalledOnce()
  })
})
