import { t } from '@lingui/core/macro'
import { Toolbar } from 'radix-ui'

const MEASURES = ['°', '′', '″', '±', '×', '÷', '≈', '≠', '≤', '≥', '→', '√', 'π', 'µ', 'Ω', 'Δ']
const PARTS = ['½', '¼', '¾', '²', '³', '‰']
const LETTERS = [...'áàâãäåæçéèêëíîïñóôõöøœúùûüßÁÂÃÄÅÇÉÍÓÔÕÖÚÜ']
const SIGNS = ['–', '—', '…', '“', '”', '‘', '’', '§', '€', '£']

/** Characters that the keyboard may not have. Pressing one puts it where the caret is. */
export function Characters({
  put,
  close,
}: {
  put: (character: string) => void
  close: () => void
}) {
  const groups: [string, string[]][] = [
    [t`Measures and mathematics`, MEASURES],
    [t`Fractions and powers`, PARTS],
    [t`Letters with accents`, LETTERS],
    [t`Punctuation and money`, SIGNS],
  ]
  return (
    <section
      aria-label={t`Special characters`}
      className="max-h-56 overflow-y-auto border-b border-line bg-rail px-2 py-2"
      onKeyDown={(event) => event.key === 'Escape' && close()}
    >
      {groups.map(([name, characters], n) => (
        <Toolbar.Root key={name} aria-label={name} className="flex flex-wrap gap-0.5">
          {characters.map((character, i) => (
            <Toolbar.Button
              key={character}
              type="button"
              autoFocus={n === 0 && i === 0}
              className="size-9 rounded-md text-lg hover:bg-gust-soft"
              aria-label={t`Insert ${character}`}
              onMouseDown={(event) => event.preventDefault()}
              onClick={() => put(character)}
            >
              {character}
            </Toolbar.Button>
          ))}
        </Toolbar.Root>
      ))}
      <button
        type="button"
        className="mt-1 min-h-9 rounded-md px-3 font-semibold text-gust hover:bg-gust-soft"
        onClick={close}
      >{t`Back to the text`}</button>
    </section>
  )
}
