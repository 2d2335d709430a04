import type { Schemas } from '../../../api/client'
import { Html } from '../../../ui/Html'
import { pairsOf, plain } from '../../values'
import { FigureWith, RegionShape } from '../shared/FigureWith'
import { PartGroup } from '../shared/PartGroup'
import type { PartProps } from '../shared/types'
import { SlotButton, TokenBoard } from './TokenBoard'

type Kind = 'match' | 'gap_match' | 'graphic_gap_match'
type SlotsPartOut = Schemas['SlotsPartOut']

/** QTI match, gap match and graphic gap match interactions. */
export default function SlotsPart({ part, state, value, onChange }: PartProps<Kind>) {
  const closed = state.state !== 'open'
  const filled = pairsOf(value).size
  return (
    <PartGroup
      label={part.label}
      state={state}
      note={closed ? null : `${filled} of ${part.slots.length} filled`}
    >
      <TokenBoard part={part} value={value} onChange={onChange} closed={closed}>
        {part.kind === 'match' ? (
          <Pairs part={part} />
        ) : part.kind === 'gap_match' ? (
          <Gaps part={part} />
        ) : (
          <OnFigure part={part} filled={pairsOf(value)} />
        )}
      </TokenBoard>
    </PartGroup>
  )
}

function Pairs({ part }: { part: SlotsPartOut }) {
  return (
    <ul className="grid max-w-[45rem] gap-2">
      {part.slots.map((slot) => (
        <li key={slot.id} className="grid grid-cols-2 items-center gap-4">
          <Html html={slot.html} inline className="text-[1.05rem]" />
          <SlotButton id={slot.id} name={plain(slot.html)} wide />
        </li>
      ))}
    </ul>
  )
}

function Gaps({ part }: { part: SlotsPartOut }) {
  return (
    <p className="max-w-[42rem] rounded-box bg-sheet px-5 py-4 text-[1.1rem] leading-[2.6]">
      {part.text.map((text, i) => {
        const slot = part.slots[i]
        return (
          <span key={slot?.id ?? 'end'}>
            <Html html={text} inline />
            {slot && <SlotButton id={slot.id} name={`Gap ${i + 1}`} />}
          </span>
        )
      })}
    </p>
  )
}

function OnFigure({ part, filled }: { part: SlotsPartOut; filled: Map<string, string> }) {
  return (
    <div className="grid gap-4 @4xl:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
      {part.figure && (
        <FigureWith figure={part.figure}>
          {part.slots.map(
            (slot, i) =>
              slot.region && (
                <g key={slot.id}>
                  <RegionShape region={slot.region} chosen={filled.has(slot.id)} />
                  <text
                    x={
                      (slot.region.numbers[0] ?? 0) +
                      (slot.region.shape === 'rect' ? (slot.region.numbers[2] ?? 0) / 2 : 0)
                    }
                    y={
                      (slot.region.numbers[1] ?? 0) +
                      (slot.region.shape === 'rect' ? (slot.region.numbers[3] ?? 0) / 2 : 0)
                    }
                    textAnchor="middle"
                    dominantBaseline="central"
                    fontSize="13"
                    fontWeight="700"
                    fill="var(--v-ink)"
                  >
                    {i + 1}
                  </text>
                </g>
              ),
          )}
        </FigureWith>
      )}
      <ol className="grid content-start gap-2">
        {part.slots.map((slot, i) => (
          <li key={slot.id} className="grid grid-cols-[1.500rem_1fr] items-center gap-2">
            <span className="font-semibold">{i + 1}</span>
            <SlotButton id={slot.id} name={plain(slot.html)} wide />
          </li>
        ))}
      </ol>
    </div>
  )
}
