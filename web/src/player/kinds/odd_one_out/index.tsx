import { t } from '@lingui/core/macro'
import { useId } from 'react'
import type { Schemas } from '../../../api/client'
import { Html } from '../../../ui/Html'
import { PartGroup } from '../shared/PartGroup'
import { PaperBox } from '../shared/paper'
import { PiecesReview } from '../shared/reviews'
import type { KindView, PartProps, PrintedProps } from '../view'

const NOT_YET = '-'

/** The item and the reason of a response `item reason`; either may still be missing. */
function split(value: string): [string, string] {
  const [item = NOT_YET, reason = NOT_YET] = value.split(' ')
  return [item || NOT_YET, reason]
}

function Answer({ part, state, value, onChange, keys, review }: PartProps<'odd_one_out'>) {
  const closed = state.state !== 'open'
  const [item, reason] = split(value)
  const done = [item, reason].filter((one) => one !== NOT_YET).length
  return (
    <PartGroup
      label={part.label}
      closed={closed}
      note={closed ? null : t`${done} of 2 chosen: the odd one and the reason`}
      review={review}
    >
      <Choices
        name={t`Which one does not belong?`}
        tokens={part.items}
        chosen={item}
        keys={keys && !closed}
        onChoose={(id) => onChange(`${id} ${reason}`)}
      />
      <Choices
        name="Because"
        tokens={part.reasons}
        chosen={reason}
        keys={false}
        onChoose={(id) => onChange(`${item} ${id}`)}
      />
    </PartGroup>
  )
}

function Choices({
  name,
  tokens,
  chosen,
  keys,
  onChoose,
}: {
  name: string
  tokens: Schemas['TokenOut'][]
  chosen: string
  keys: boolean
  onChoose: (id: string) => void
}) {
  const group = useId()
  return (
    <div role="radiogroup" aria-labelledby={`${group}-name`} className="mb-4">
      <p id={`${group}-name`} className="mb-1.5 text-ink-2">
        {name}
      </p>
      <div className="flex max-w-[45rem] flex-wrap gap-2">
        {tokens.map((token, i) => (
          <label
            key={token.id}
            className={`min-h-10 cursor-pointer rounded-lg border-2 bg-sheet px-3 py-1.5 has-focus-visible:outline-3 has-focus-visible:outline-offset-2 has-focus-visible:outline-gust ${
              chosen === token.id
                ? 'border-gust font-semibold'
                : 'border-line hover:border-gust-mid'
            }`}
          >
            <input
              type="radio"
              className="sr-only"
              name={group}
              value={token.id}
              checked={chosen === token.id}
              onChange={() => onChoose(token.id)}
            />
            <Html html={token.html} inline />
            {keys && <span className="ml-2 text-xs text-ink-2">{i + 1}</span>}
          </label>
        ))}
      </div>
    </div>
  )
}

function Printed({ part, value }: PrintedProps<'odd_one_out'>) {
  const [item, reason] = split(value)
  return (
    <>
      {[
        { name: t`Which one does not belong?`, tokens: part.items, chosen: item },
        { name: t`Because`, tokens: part.reasons, chosen: reason },
      ].map(({ name, tokens, chosen }) => (
        <div key={name} className="mb-2">
          <p>{name}</p>
          <ul className="flex flex-wrap gap-x-6 gap-y-1">
            {tokens.map((token) => (
              <li key={token.id} className="flex items-center gap-2">
                <PaperBox chosen={token.id === chosen} round />
                <Html html={token.html} inline />
              </li>
            ))}
          </ul>
        </div>
      ))}
    </>
  )
}

export const oddOneOut: KindView<'odd_one_out'> = {
  Answer,
  Review: ({ state }) => <PiecesReview state={state} />,
  Printed,
  digits: (part) => part.items.length,
  afterDigit: (part, value, digit) => `${part.items[digit - 1]?.id ?? NOT_YET} ${split(value)[1]}`,
}
