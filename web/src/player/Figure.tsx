import { t } from '@lingui/core/macro'
import { Maximize2 } from 'lucide-react'
import { Slider } from 'radix-ui'
import { lazy, type ReactNode, Suspense, useId, useState } from 'react'
import type { Schemas } from '../api/client'
import { IconButton } from '../ui/IconButton'

const Enlarged = lazy(() => import('./Enlarged'))

type FigureOut = Schemas['FigureOut']

/** A drawing of the pack: checked by the server when it was loaded, described by its alternative. */
export const Figure = ({ figure, className = '' }: { figure: FigureOut; className?: string }) => (
  <Shown figure={figure} className={className} />
)

/** The same, and a way to look at it closely. Nothing may be drawn over it. */
export const LargeFigure = ({
  figure,
  className = '',
}: {
  figure: FigureOut
  className?: string
}) => <Shown figure={figure} className={`relative ${className}`} large />

/** A button to look at a drawing closely. over: what is drawn over it here. */
export function Enlarge({ svg, alt, over }: { svg: string; alt: string; over?: ReactNode }) {
  const [open, setOpen] = useState(false)
  return (
    <>
      <IconButton icon={Maximize2} label={t`Enlarge the figure`} act={() => setOpen(true)} />
      {open && (
        <Suspense>
          <Enlarged svg={svg} alt={alt} over={over} onClose={() => setOpen(false)} />
        </Suspense>
      )}
    </>
  )
}

interface ShownProps {
  figure: FigureOut
  className: string
  large?: boolean
}

function Shown({ figure, className, large }: ShownProps) {
  if (figure.moving)
    return (
      <MovingFigure moving={figure.moving} alt={figure.alt} className={className} large={large} />
    )
  if (!large) return <Drawing svg={figure.svg} alt={figure.alt} className={className} />
  return (
    <div className={className}>
      <Drawing svg={figure.svg} alt={figure.alt} className="" />
      <Corner svg={figure.svg} alt={figure.alt} />
    </div>
  )
}

const Corner = (drawing: { svg: string; alt: string }) => (
  <span className="absolute top-1 right-1 rounded-lg bg-sheet/80 print:hidden">
    <Enlarge {...drawing} />
  </span>
)

function Drawing({ svg, alt, className }: { svg: string; alt: string; className: string }) {
  return (
    <div
      role="img"
      aria-label={alt}
      className={`figure ${className}`}
      dangerouslySetInnerHTML={{ __html: svg }}
    />
  )
}

/** A drawing that a slider moves, and what is read off where it stands. */
function MovingFigure({
  moving,
  alt,
  className,
  large,
}: Omit<ShownProps, 'figure'> & { moving: NonNullable<FigureOut['moving']>; alt: string }) {
  const [at, setAt] = useState(moving.start)
  const name = useId()
  const frame = moving.frames[at] ?? moving.frames[0]
  if (!frame) return null
  return (
    <figure className={className}>
      <Drawing svg={frame.svg} alt={alt} className="" />
      {large && <Corner svg={frame.svg} alt={`${alt} ${frame.says}.`} />}
      <figcaption className="mt-2">
        <span id={name} className="text-sm text-ink-2">
          {moving.label}
        </span>
        <Slider.Root
          className="relative flex h-11 touch-none items-center"
          min={0}
          max={moving.frames.length - 1}
          value={[at]}
          onValueChange={([next = at]) => setAt(next)}
        >
          <Slider.Track className="relative h-2 w-full rounded-full bg-line">
            <Slider.Range className="absolute h-full rounded-full bg-gust-mid" />
          </Slider.Track>
          <Slider.Thumb
            aria-labelledby={name}
            aria-valuetext={frame.says}
            className="block size-7 rounded-full border-2 border-gust bg-sheet"
          />
        </Slider.Root>
        <p className="min-h-12 font-semibold tabular-nums">{frame.says}</p>
      </figcaption>
    </figure>
  )
}
