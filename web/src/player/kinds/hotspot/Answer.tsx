import { Html } from '../../../ui/Html'
import { useChosen } from '../shared/chosen'
import { FigureWith, RegionShape } from '../shared/FigureWith'
import { PartGroup } from '../shared/PartGroup'
import type { PartProps } from '../view'

/** QTI hotspot interaction: places on a figure, and the same as a list. */
export function Answer({ review, part, state, value, onChange, keys }: PartProps<'hotspot'>) {
  const { chosen, toggle, full, note } = useChosen(part, value, onChange)
  const closed = state.state !== 'open'
  return (
    <PartGroup label={part.label} closed={closed} review={review} note={note}>
      {part.figure && (
        <FigureWith figure={part.figure}>
          {part.choices.map(
            (choice) =>
              choice.region && (
                // biome-ignore lint/a11y/noStaticElementInteractions: the list below does the same by keyboard
                <g
                  key={choice.id}
                  data-hotspot={choice.id}
                  className={closed ? '' : 'cursor-pointer'}
                  onClick={() => !closed && toggle(choice.id)}
                >
                  <RegionShape region={choice.region} chosen={chosen.includes(choice.id)} />
                </g>
              ),
          )}
        </FigureWith>
      )}
      <div className="mt-3 flex max-w-[45rem] flex-wrap gap-2">
        {part.choices.map((choice, i) => (
          <button
            key={choice.id}
            type="button"
            aria-pressed={chosen.includes(choice.id)}
            disabled={full && !chosen.includes(choice.id)}
            onClick={() => toggle(choice.id)}
            className={`min-h-10 rounded-lg border-2 bg-sheet px-3 py-1.5 ${
              chosen.includes(choice.id)
                ? 'border-gust font-semibold'
                : 'border-line hover:border-gust-mid'
            }`}
          >
            <Html html={choice.html} inline />
            {keys && !closed && <span className="ml-2 text-xs text-ink-2">{i + 1}</span>}
          </button>
        ))}
      </div>
    </PartGroup>
  )
}
