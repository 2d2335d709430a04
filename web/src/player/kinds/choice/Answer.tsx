import { t } from '@lingui/core/macro'
import { Strikethrough } from 'lucide-react'
import { KeyCap } from '../../../ui/Button'
import { Html } from '../../../ui/Html'
import { Sign } from '../../../ui/Sign'
import { useChosen } from '../shared/chosen'
import { PartGroup } from '../shared/PartGroup'
import type { PartProps } from '../view'

/** QTI choice interaction: one of several, an exact number, or any number. */
export function Answer({
  review,
  part,
  state,
  value,
  onChange,
  keys,
  strike,
}: PartProps<'choice'>) {
  const closed = state.state !== 'open'
  const one = part.choose === 1
  const { chosen, toggle, full, note } = useChosen(part, value, onChange)
  return (
    <PartGroup label={part.label} closed={closed} review={review} note={note}>
      <div className="grid max-w-[45rem] gap-2">
        {part.choices.map((choice, i) => {
          const picked = chosen.includes(choice.id)
          const struck = strike?.struck.includes(choice.id) && !picked
          const choose = (
            <label
              key={choice.id}
              className={`flex flex-1 items-center gap-4 rounded-box border-2 bg-sheet px-4 py-3 text-[1.1rem] has-focus-visible:outline-3 has-focus-visible:outline-offset-2 has-focus-visible:outline-gust ${
                picked
                  ? 'border-gust'
                  : struck
                    ? 'border-dashed border-edge'
                    : 'border-transparent hover:border-gust-mid'
              } ${closed || (full && !picked) ? '' : 'cursor-pointer'}`}
            >
              <input
                type={one ? 'radio' : 'checkbox'}
                className="sr-only"
                name={part.id}
                value={choice.id}
                checked={picked}
                disabled={full && !picked}
                onChange={() => toggle(choice.id)}
              />
              <span
                aria-hidden="true"
                className={`flex size-5 shrink-0 items-center justify-center border-2 ${one ? 'rounded-full' : 'rounded'} ${picked ? 'border-gust' : 'border-edge'}`}
              >
                {picked && <span className={`size-2.5 bg-gust ${one ? 'rounded-full' : ''}`} />}
              </span>
              <Html
                html={choice.html}
                inline
                className={struck ? 'flex-1 text-ink-3 line-through' : 'flex-1'}
              />
              {struck && <span className="sr-only">{t`crossed out`}</span>}
              {picked && closed && one && (
                <Sign kind={state.state === 'right' ? 'right' : 'wrong'} />
              )}
              {keys && !closed && <KeyCap>{i + 1}</KeyCap>}
            </label>
          )
          if (!strike || closed) return choose
          return (
            <div key={choice.id} className="flex items-center gap-2">
              {choose}
              <button
                type="button"
                aria-pressed={struck}
                aria-label={t`Cross out choice ${i + 1}`}
                disabled={picked}
                onClick={() => strike.toggle(choice.id)}
                className="size-11 shrink-0 rounded-lg text-ink-2 hover:bg-rail disabled:opacity-40"
              >
                <Strikethrough size={20} aria-hidden="true" className="mx-auto" />
              </button>
            </div>
          )
        })}
      </div>
    </PartGroup>
  )
}
