import { t } from '@lingui/core/macro'
import { X } from 'lucide-react'
import { useState } from 'react'
import { useKept } from '../../account/useKept'
import { Button } from '../../ui/Button'
import { Check } from '../../ui/Check'
import { fieldClass, Labelled, TextArea } from '../../ui/Field'
import { IconButton } from '../../ui/IconButton'
import { type Mark, sumOf } from './marks'
import type { Part } from './queries'

interface Props {
  part: Part
  mark: Mark
  /** Under what a comment that is not set in yet is kept. */
  place: string
  onChange: (mark: Mark) => void
}

/** Points by criteria or as a whole, a comment, and comments set into a written text. */
export function MarkForm({ part, mark, place, onChange }: Props) {
  const give = (number: number, points: string) => {
    const next = { ...mark.points }
    if (points === '') delete next[number]
    else next[number] = points
    onChange({ ...mark, points: next })
  }
  return (
    <div>
      {part.criteria.length > 0 ? (
        <fieldset>
          <legend className="font-semibold">
            {sumOf(mark.points)} {t`of ${part.of} points`}
          </legend>
          {part.criteria.map((criterion, n) => (
            <div
              key={criterion.says}
              className="grid grid-cols-[minmax(0,1fr)_5rem_3rem] items-center gap-3 border-b border-line py-1"
            >
              <Check
                on={Number(mark.points[n]) === criterion.points}
                set={(on) => give(n, on ? String(criterion.points) : '')}
              >
                <span>
                  <kbd className="mr-2 text-sm text-ink-2">{n + 1}</kbd>
                  {criterion.says}
                </span>
              </Check>
              <input
                type="number"
                min={0}
                max={criterion.points}
                step={0.5}
                aria-label={t`Points for: ${criterion.says}, of ${criterion.points}`}
                className={`${fieldClass} w-full`}
                value={mark.points[n] ?? ''}
                onChange={(event) => give(n, event.target.value)}
              />
              <span className="text-ink-2">{t`of ${criterion.points}`}</span>
            </div>
          ))}
        </fieldset>
      ) : (
        <Labelled label={t`Points, of ${part.of}`}>
          <input
            type="number"
            min={0}
            max={part.of}
            step={0.5}
            className={`${fieldClass} w-24`}
            value={mark.points[0] ?? ''}
            onChange={(event) => give(0, event.target.value)}
          />
        </Labelled>
      )}
      <Labelled label={t`Comment for the learner (optional)`} className="mt-4">
        <TextArea
          rows={3}
          maxLength={2000}
          value={mark.comment}
          onChange={(event) => onChange({ ...mark, comment: event.target.value })}
        />
      </Labelled>
      {part.text !== '' && part.kind === 'extended_text' && (
        <Notes part={part} mark={mark} place={place} onChange={onChange} />
      )}
    </div>
  )
}

/** Comments on stretches of the text: select some of it, with the mouse or Shift and arrows. */
function Notes({ part, mark, place, onChange }: Props) {
  const { value: says, set: setSays, saved } = useKept(`${place}:note`, () => '')
  const [range, setRange] = useState<[number, number]>([0, 0])
  const [from, to] = range
  const chosen = part.text.slice(from, to)
  return (
    <div className="mt-4">
      <Labelled label={t`The answer. Select some of it to add a comment`}>
        {/* Not readOnly: there no caret could be moved by keyboard to select with. */}
        <textarea
          aria-readonly="true"
          onChange={() => undefined}
          spellCheck={false}
          rows={4}
          className={`${fieldClass} w-full`}
          value={part.text}
          onSelect={(event) => {
            const { selectionStart, selectionEnd } = event.currentTarget
            setRange([selectionStart, selectionEnd])
          }}
        />
      </Labelled>
      <p className="mt-1 text-sm text-ink-2">{part.length}</p>
      <div className="mt-2 flex flex-wrap items-end gap-2">
        <Labelled
          label={chosen.trim() ? t`About “${shortened(chosen)}”` : t`Comment on the selection`}
          className="min-w-48 flex-1"
        >
          <input
            className={fieldClass}
            maxLength={400}
            value={says}
            onChange={(event) => setSays(event.target.value)}
          />
        </Labelled>
        <Button
          disabled={!chosen.trim() || !says.trim()}
          onClick={() => {
            const note = { at: from, length: to - from, says: says.trim() }
            onChange({ ...mark, notes: [...mark.notes, note] })
            saved('')
          }}
        >{t`Add comment`}</Button>
      </div>
      <ul>
        {mark.notes.map((note) => (
          <li key={`${note.at}-${note.says}`} className="flex items-center gap-2">
            <span className="min-w-0 flex-1">
              <span className="text-ink-2">
                “{shortened(part.text.slice(note.at, note.at + note.length))}”
              </span>{' '}
              {note.says}
            </span>
            <IconButton
              icon={X}
              label={t`Remove the comment “${note.says}”`}
              act={() => onChange({ ...mark, notes: mark.notes.filter((one) => one !== note) })}
            />
          </li>
        ))}
      </ul>
    </div>
  )
}

const shortened = (text: string) => (text.length > 40 ? `${text.slice(0, 38)}…` : text)
