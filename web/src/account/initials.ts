/** The letters that stand for a name at the top: of its first word and its last. */
export function initialsOf(name: string): string {
  const words = name.replace(/,.*/, '').split(/\s+/).filter(Boolean)
  const ends = words.length > 1 ? [words[0], words.at(-1)] : words
  return ends.map((word) => Array.from(word ?? '')[0]).join('')
}

export const initialsClass =
  'flex size-10 items-center justify-center rounded-full bg-on-deep/15 text-sm font-semibold text-on-deep ring-1 ring-on-deep-2/60'
