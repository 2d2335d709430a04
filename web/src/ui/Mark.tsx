/** The mark: a wind barb of three strokes. */
export function Mark({ size = 30 }: { size?: number }) {
  return (
    <svg width={size} height={size} viewBox="0 0 32 32" aria-hidden="true">
      <g fill="none" stroke="var(--v-sun)" strokeWidth="2.6" strokeLinecap="round">
        <path d="M4 26 25 6" />
        <path d="m25 6-9.500-1.700" />
        <path d="m20 10.800-8-1.400" />
        <path d="m15 15.600-5.200-.9" />
      </g>
    </svg>
  )
}
