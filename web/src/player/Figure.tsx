import type { Schemas } from '../api/client'

/** A drawing of the pack: checked by the server when it was loaded, described by its alternative. */
export function Figure({
  figure,
  className = '',
}: {
  figure: Schemas['FigureOut']
  className?: string
}) {
  return (
    <div
      role="img"
      aria-label={figure.alt}
      className={`figure ${className}`}
      dangerouslySetInnerHTML={{ __html: figure.svg }}
    />
  )
}
