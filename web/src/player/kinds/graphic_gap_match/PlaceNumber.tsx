import type { Schemas } from '../../../api/client'

/** The number of a place, in its middle. */
export function PlaceNumber({ region, number }: { region: Schemas['RegionOut']; number: number }) {
  const [x = 0, y = 0, width = 0, height = 0] = region.numbers
  const rect = region.shape === 'rect'
  return (
    <text
      x={x + (rect ? width / 2 : 0)}
      y={y + (rect ? height / 2 : 0)}
      textAnchor="middle"
      dominantBaseline="central"
      fontSize="13"
      fontWeight="700"
      fill="var(--v-ink)"
    >
      {number}
    </text>
  )
}
