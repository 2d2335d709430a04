interface Sent {
  type: string
  text?: string
  marks?: { type: string }[]
  content?: Sent[]
}

const WORD = /[\p{L}\p{N}]+(?:['’.,:/-][\p{L}\p{N}]+)*/gu
const EMPHASIS = /(\*\*|\*)(\S(?:.*?\S)?)\1/g

/** How many words a text has, while it is written; the server counts by the same examples. */
export const countWords = (text: string) => text.match(WORD)?.length ?? 0

const plain = (text: string): Sent[] => (text ? [{ type: 'text', text }] : [])

function line(text: string): Sent[] {
  const found: Sent[] = []
  let from = 0
  for (const match of text.matchAll(EMPHASIS)) {
    const [whole, sign, said] = match
    const mark = sign === '**' ? 'bold' : 'italic'
    found.push(...plain(text.slice(from, match.index)))
    found.push({ type: 'text', text: said ?? '', marks: [{ type: mark }] })
    from = match.index + whole.length
  }
  return [...found, ...plain(text.slice(from))]
}

/** What the editor begins with: a text with structure, or an older one line by line. */
export function toDocument(value: string): Sent {
  if (value.startsWith('{"type":"doc"')) return JSON.parse(value)
  const lines = value.split('\n')
  return { type: 'doc', content: lines.map((text) => ({ type: 'paragraph', content: line(text) })) }
}
