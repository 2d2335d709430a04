import { t } from '@lingui/core/macro'
import { Html } from '../../../ui/Html'
import { useChosen } from '../shared/chosen'
import { PartGroup } from '../shared/PartGroup'
import type { PartProps } from '../view'

/** QTI hot text interaction: words of a text that can be chosen. */
export function Answer({ review, part, state, value, onChange }: PartProps<'hot_text'>) {
  const closed = state.state !== 'open'
  const { chosen, toggle, full, note } = useChosen(part, value, onChange)
  return (
    <PartGroup
      label={part.label}
      closed={closed}
      review={review}
      note={note ?? t`Choose the words in the text.`}
    >
      <p className="max-w-[42rem] rounded-box bg-sheet px-5 py-4 text-[1.1rem] leading-[2.1]">
        {part.text.map((text, i) => {
          const choice = part.choices[i]
          return (
            <span key={choice?.id ?? 'end'}>
              <Html html={text} inline />
              {choice && (
                <button
                  type="button"
                  aria-pressed={chosen.includes(choice.id)}
                  disabled={full && !chosen.includes(choice.id)}
                  onClick={() => toggle(choice.id)}
                  className={`rounded border-b-2 px-1.5 ${
                    chosen.includes(choice.id)
                      ? 'border-gust bg-gust-soft font-semibold'
                      : 'border-edge hover:bg-gust-soft'
                  }`}
                >
                  <Html html={choice.html} inline />
                </button>
              )}
            </span>
          )
        })}
      </p>
    </PartGroup>
  )
}
