import { t } from '@lingui/core/macro'

type Kind = 'right' | 'wrong' | 'partly' | 'note'

const PATHS: Record<Kind, string> = {
  right: 'm5 12.500 4.500 4.500L19 7.500',
  wrong: 'm6.500 6.500 11 11m0-11-11 11',
  partly: 'M6 12.500h12',
  note: 'M12 7v6m0 4v.01',
}
const WORDS: Record<Kind, string> = {
  right: t`Right`,
  wrong: t`Wrong`,
  partly: t`Partly right`,
  note: t`Note`,
}
const TONES: Record<Kind, string> = {
  right: 'text-correct',
  wrong: 'text-wrong',
  partly: 'text-part',
  note: 'text-ink-2',
}

/** The drawn sign that goes with right, wrong and partly right; the word is for screen readers. */
export function Sign({
  kind,
  size = 22,
  word = true,
}: {
  kind: Kind
  size?: number
  word?: boolean
}) {
  return (
    <span className={`inline-flex shrink-0 ${TONES[kind]}`}>
      <svg width={size} height={size} viewBox="0 0 24 24" aria-hidden="true">
        <circle cx="12" cy="12" r="10.500" fill="none" stroke="currentColor" strokeWidth="1.75" />
        <path
          d={PATHS[kind]}
          fill="none"
          stroke="currentColor"
          strokeWidth="2.25"
          strokeLinecap="round"
          strokeLinejoin="round"
        />
      </svg>
      {word && <span className="sr-only">{WORDS[kind]}: </span>}
    </span>
  )
}
