import { t } from '@lingui/core/macro'
import { useRef, useState } from 'react'
import { Html } from '../../../ui/Html'
import { PartGroup } from '../shared/PartGroup'
import { NOT_MARKED } from '../shared/written'
import type { PartProps } from '../view'

const MARKS: [string, string, string, string][] = [
  [t`Bold`, '**', '**', 'B'],
  [t`Italic`, '*', '*', 'I'],
  [t`List`, '\n- ', '', t`List`],
]
const CHARACTERS = ['°', '′', '±', '×', '÷', '≤', '≥', '→', 'é', 'ã', 'ç']

/** A text in one's own words: kept, and not marked by a rule. */
export function Answer({ part, state, value, onChange, review }: PartProps<'extended_text'>) {
  const field = useRef<HTMLTextAreaElement>(null)
  const [past, setPast] = useState<string[]>([])
  const [ahead, setAhead] = useState<string[]>([])
  const closed = state.state !== 'open'
  const name = part.label || t`In your own words`
  if (closed && state.answer_html)
    return (
      <PartGroup label={name} closed={closed} note={NOT_MARKED} review={review}>
        <Html
          html={state.answer_html}
          className="prose-study max-w-[42rem] rounded-box border-2 border-edge bg-sheet px-4 py-3"
        />
      </PartGroup>
    )
  const write = (next: string) => {
    setPast([...past.slice(-99), value])
    setAhead([])
    onChange(next)
  }
  const insert = (before: string, after = '') => {
    const node = field.current
    if (!node) return
    const { selectionStart: from, selectionEnd: to } = node
    write(value.slice(0, from) + before + value.slice(from, to) + after + value.slice(to))
    const caret = to + before.length + (from === to ? 0 : after.length)
    window.setTimeout(() => {
      node.focus()
      node.setSelectionRange(caret, caret)
    }, 0)
  }
  const undo = () => {
    const last = past.at(-1)
    if (last === undefined) return
    setPast(past.slice(0, -1))
    setAhead([value, ...ahead])
    onChange(last)
  }
  const redo = () => {
    const [next, ...rest] = ahead
    if (next === undefined) return
    setAhead(rest)
    setPast([...past, value])
    onChange(next)
  }
  const tool = 'min-h-9 rounded-md px-2.5 hover:bg-gust-soft disabled:opacity-40'
  return (
    <PartGroup label={name} closed={closed} note={NOT_MARKED} review={review}>
      <div className="max-w-[42rem] rounded-box border-2 border-edge bg-sheet">
        {!closed && (
          <div
            role="toolbar"
            aria-label={t`Formatting`}
            className="flex flex-wrap gap-0.5 border-b border-line px-2 py-1"
          >
            {MARKS.map(([name, before, after, text]) => (
              <button
                key={name}
                type="button"
                className={tool}
                aria-label={name}
                onClick={() => insert(before, after)}
              >
                {text}
              </button>
            ))}
            <button
              type="button"
              className={tool}
              disabled={past.length === 0}
              onClick={undo}
            >{t`Undo`}</button>
            <button
              type="button"
              className={tool}
              disabled={ahead.length === 0}
              onClick={redo}
            >{t`Redo`}</button>
            {CHARACTERS.map((character) => (
              <button
                key={character}
                type="button"
                className={tool}
                aria-label={t`Insert ${character}`}
                onClick={() => insert(character)}
              >
                {character}
              </button>
            ))}
          </div>
        )}
        <textarea
          ref={field}
          aria-label={name}
          rows={5}
          maxLength={8000}
          value={value}
          readOnly={closed}
          onChange={(event) => write(event.target.value)}
          className="block w-full resize-y bg-transparent px-4 py-3 text-[1.1rem] outline-none"
        />
      </div>
    </PartGroup>
  )
}
