/** The scale over a column of drift bars. */
export function DriftAxis() {
  return (
    <div aria-hidden="true" className="relative h-5 text-sm text-ink-3 tabular-nums">
      {[0, 25, 50, 75, 100].map((mark) => (
        <span
          key={mark}
          className="absolute"
          style={{ left: `${mark}%`, transform: `translateX(-${mark}%)` }}
        >
          {mark}
        </span>
      ))}
    </div>
  )
}
