import type { PartState, Schemas } from '../../api/client'
import { KeyCap } from '../../ui/Button'
import { Html } from '../../ui/Html'
import { Sign } from '../../ui/Sign'

interface Props {
  part: Schemas['ChoicePartOut']
  state: PartState
  value: string
  onChange: (value: string) => void
  keys: boolean
}

/** QTI choice interaction, one of several. */
export function ChoicePart({ part, state, value, onChange, keys }: Props) {
  const closed = state.state !== 'open'
  return (
    <fieldset className="mt-5 min-w-0" disabled={closed}>
      <legend className={part.label ? 'mb-1.5 font-semibold' : 'sr-only'}>
        {part.label || 'Your answer'}
      </legend>
      <div className="grid max-w-[45rem] gap-2">
        {part.choices.map((choice, i) => {
          const chosen = value === choice.id
          return (
            <label
              key={choice.id}
              className={`flex items-center gap-4 rounded-box border-2 bg-sheet px-4 py-3 text-[1.1rem] has-focus-visible:outline-3 has-focus-visible:outline-offset-2 has-focus-visible:outline-gust ${
                chosen ? 'border-gust' : 'border-transparent hover:border-gust-mid'
              } ${closed ? '' : 'cursor-pointer'}`}
            >
              <input
                type="radio"
                className="sr-only"
                name={part.id}
                value={choice.id}
                checked={chosen}
                onChange={() => onChange(choice.id)}
              />
              <span
                aria-hidden="true"
                className={`flex size-5 shrink-0 items-center justify-center rounded-full border-2 ${chosen ? 'border-gust' : 'border-edge'}`}
              >
                {chosen && <span className="size-2.5 rounded-full bg-gust" />}
              </span>
              <Html html={choice.html} inline className="flex-1" />
              {chosen && closed && <Sign kind={state.state === 'right' ? 'right' : 'wrong'} />}
              {keys && !closed && <KeyCap>{i + 1}</KeyCap>}
            </label>
          )
        })}
      </div>
    </fieldset>
  )
}
