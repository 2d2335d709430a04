import { t } from '@lingui/core/macro'
import { useState } from 'react'
import { Html } from '../../../ui/Html'
import { linesOf } from '../../values'
import { PartGroup } from '../shared/PartGroup'
import type { PartProps } from '../view'

/** QTI associate interaction: press two items to join them, press a pair to part it. */
export function Answer({ review, part, state, value, onChange }: PartProps<'associate'>) {
  const closed = state.state !== 'open'
  const [held, setHeld] = useState<string | null>(null)
  const pairs = linesOf(value).map((line) => line.split(' '))
  const joined = new Set(pairs.flat())
  const html = new Map(part.items.map((item) => [item.id, item.html]))
  const press = (id: string) => {
    if (held === null) setHeld(id)
    else {
      if (held !== id) onChange([...linesOf(value), `${held} ${id}`].join('\n'))
      setHeld(null)
    }
  }
  const separate = (line: string) =>
    onChange(
      linesOf(value)
        .filter((other) => other !== line)
        .join('\n'),
    )
  return (
    <PartGroup
      label={part.label}
      closed={closed}
      review={review}
      note={
        closed
          ? null
          : held
            ? t`Now press the one that goes with it.`
            : t`${pairs.length} of ${part.pairs} pairs made`
      }
    >
      {!closed && (
        <div className="flex max-w-[45rem] flex-wrap gap-2">
          {part.items
            .filter((item) => !joined.has(item.id))
            .map((item) => (
              <button
                key={item.id}
                type="button"
                data-item={item.id}
                aria-pressed={held === item.id}
                disabled={pairs.length >= part.pairs}
                onClick={() => press(item.id)}
                className={`min-h-10 rounded-lg border-2 px-3 py-1.5 ${
                  held === item.id
                    ? 'border-gust bg-gust-soft font-semibold'
                    : 'border-line bg-sheet hover:border-gust-mid'
                }`}
              >
                <Html html={item.html} inline />
              </button>
            ))}
        </div>
      )}
      <ul className="mt-3 grid max-w-[45rem] gap-1.5">
        {pairs.map(([a = '', b = '']) => (
          <li
            key={`${a}-${b}`}
            className="flex flex-wrap items-center gap-3 rounded-lg bg-sheet px-3 py-2"
          >
            <Html html={html.get(a) ?? ''} inline />
            <span aria-hidden="true" className="h-0.5 w-8 bg-gust" />
            <span className="sr-only">{t`with`}</span>
            <Html html={html.get(b) ?? ''} inline className="flex-1" />
            {!closed && (
              <button
                type="button"
                className="text-gust hover:underline"
                onClick={() => separate(`${a} ${b}`)}
              >{t`Separate`}</button>
            )}
          </li>
        ))}
      </ul>
    </PartGroup>
  )
}
