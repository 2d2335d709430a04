import { type Note, pieces } from './marks'

/** A text with the comments set into it: each numbered where it stands and said below. */
export function NotedText({ text, notes }: { text: string; notes: Note[] }) {
  const sorted = [...notes].sort((a, b) => a.at - b.at)
  return (
    <>
      <p className="whitespace-pre-wrap">
        {pieces(text, notes).map(({ text: piece, note }, i) => {
          const number = note ? sorted.indexOf(note) + 1 : 0
          return note ? (
            // biome-ignore lint/suspicious/noArrayIndexKey: pieces have no identity but their place
            <mark key={i} className="rounded-sm bg-sun/40 text-ink">
              {piece}
              <sup className="ml-0.5 font-semibold">{number}</sup>
            </mark>
          ) : (
            // biome-ignore lint/suspicious/noArrayIndexKey: as above
            <span key={i}>{piece}</span>
          )
        })}
      </p>
      {sorted.length > 0 && (
        <ol className="mt-2 list-decimal pl-6 text-[0.95rem]">
          {sorted.map((note) => (
            <li key={`${note.at}-${note.says}`}>{note.says}</li>
          ))}
        </ol>
      )}
    </>
  )
}
