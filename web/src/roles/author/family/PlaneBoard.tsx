import { t } from '@lingui/core/macro'
import { lazy, Suspense } from 'react'
import type { Json } from '../../../account/merging'
import type { Point } from '../../../player/values'
import { useFamily } from './context'
import { filledOf, type Given, type Things, textOf } from './json'

const Board = lazy(() => import('../../../player/kinds/points/Board'))

interface Props {
  part: string
  targets: Things[]
  onChange: (targets: Json[]) => void
}

/** The points that are right, set on the plane that learners get. */
export function PlaneBoard({ part, targets, onChange }: Props) {
  const { seenPart, filled } = useFamily()
  const seen = seenPart(part)
  if (!seen || !('draws' in seen))
    return (
      <p className="text-ink-2 @md:col-span-2">{t`Once the question can be shown, you can set its points on the plane.`}</p>
    )
  const value = (given: Given) => Number(textOf(filledOf(filled, given) ?? given).replace('−', '-'))
  const points = targets.map(({ x, y }): Point => ({ x: value(x), y: value(y) }))
  const known = points.every(({ x, y }) => Number.isFinite(x) && Number.isFinite(y))
  const put = (place: number, point: Point) => {
    const next = targets.map((one, i) =>
      i === place ? { ...one, x: typed(one.x, point.x), y: typed(one.y, point.y) } : one,
    )
    if (JSON.stringify(next) !== JSON.stringify(targets)) onChange(next as Json[])
  }
  return (
    <div className="max-w-[28rem] @md:col-span-2">
      <p className="mb-1 text-sm text-ink-2">
        {t`The right points in the version on screen. Drag one, or move it with the arrow keys. A value given by a formula stays.`}
      </p>
      {known && (
        <Suspense>
          <Board
            part={{ ...seen, count: targets.length }}
            points={points}
            name={(i) => textOf(targets[i]?.name) || t`Point ${i + 1}`}
            onPut={put}
          />
        </Suspense>
      )}
    </div>
  )
}

/** A number that was set; a formula says where a point lies in each version, and stays. */
const typed = (before: Given, now: number): Given => (typeof before === 'string' ? before : now)
