import { Html } from '../../ui/Html'
import type { Note } from './marks'

/** A text with the comments set into it: each numbered where it stands and said below. notes: in
 * their order in the text. */
export function NotedText({ html, notes }: { html: string; notes: Note[] }) {
  return (
    <>
      <Html html={html} className="prose-study" />
      <ol className="mt-2 list-decimal pl-6 text-[0.95rem]">
        {notes.map((note) => (
          <li key={`${note.at}-${note.says}`}>{note.says}</li>
        ))}
      </ol>
    </>
  )
}
