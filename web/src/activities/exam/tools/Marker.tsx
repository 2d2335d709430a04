import { t } from '@lingui/core/macro'
import { type KeyboardEvent, type RefObject, useEffect, useRef, useState } from 'react'
import { wordsIn } from '../../../player/aloud'
import { Button } from '../../../ui/Button'
import { type MarkedText, toggled, wordsMarked } from './marks'

const MARKED = 'marked'
const CHOSEN = 'marker-at'

interface Props {
  /** What holds the text of the question. */
  text: RefObject<HTMLElement | null>
  marked: MarkedText[]
  /** Whether the marker is in hand; marks are shown either way. */
  on: boolean
  onChange: (marked: MarkedText[]) => void
}

const wordsOf = (root: Element | null) =>
  (root ? wordsIn(root).words : []).map((word) => ({
    ...word,
    length: word.range.toString().length,
  }))

/** Shows ranges in the place of those shown before, beside those of other questions on the page. */
function shown(name: string, before: Range[], ranges: Range[]): Range[] {
  if (!('highlights' in CSS)) return ranges
  const all = CSS.highlights.get(name) ?? new Highlight()
  for (const range of before) all.delete(range)
  for (const range of ranges) all.add(range)
  if (all.size) CSS.highlights.set(name, all)
  else CSS.highlights.delete(name)
  return ranges
}

/** Marks on the text of a question: by dragging over it or pressing a word, or word by word with
 * the arrow keys. */
export function Marker({ text, marked, on, onChange }: Props) {
  const [span, setSpan] = useState({ from: 0, to: 0 })
  const hand = useRef<HTMLButtonElement>(null)
  const first = Math.min(span.from, span.to)
  const last = Math.max(span.from, span.to)

  useEffect(() => {
    let now: Range[] = []
    let chosenNow: Range[] = []
    const draw = () => {
      const words = wordsOf(text.current)
      const chosen = wordsMarked(marked, words)
      now = shown(
        MARKED,
        now,
        words.flatMap((word, index) => (chosen.has(index) ? [word.range] : [])),
      )
      const under = on ? words.slice(first, last + 1) : []
      chosenNow = shown(
        CHOSEN,
        chosenNow,
        under.map((word) => word.range),
      )
    }
    draw()
    // Mathematics is set after the page stands: its words are other ones then.
    const changes = new MutationObserver(draw)
    if (text.current) changes.observe(text.current, { childList: true, subtree: true })
    return () => {
      changes.disconnect()
      shown(MARKED, now, [])
      shown(CHOSEN, chosenNow, [])
    }
  }, [text, marked, on, first, last])

  const latest = useRef({ marked, onChange })
  latest.current = { marked, onChange }
  useEffect(() => {
    const root = text.current
    if (!on || !root) return
    hand.current?.focus()
    const dragged = () => {
      const selection = window.getSelection()
      const range = selection?.rangeCount ? selection.getRangeAt(0) : null
      if (!range || !root.contains(range.commonAncestorContainer)) return
      const words = wordsOf(root)
      const under = words.flatMap((word, index) => (touches(range, word.range) ? [index] : []))
      const [from, to] = [under[0], under.at(-1)]
      if (from === undefined || to === undefined) return
      selection?.removeAllRanges()
      setSpan({ from, to })
      latest.current.onChange(toggled(latest.current.marked, words, from, to))
    }
    root.addEventListener('pointerup', dragged)
    return () => root.removeEventListener('pointerup', dragged)
  }, [on, text])

  if (!on) return null
  const words = wordsOf(text.current)
  const said = words
    .slice(first, last + 1)
    .map((word) => word.range.toString())
    .join(' ')
  const all = wordsMarked(marked, words)
  const isMarked = words.slice(first, last + 1).every((_, index) => all.has(first + index))
  const walk = (event: KeyboardEvent) => {
    const by = { ArrowLeft: -1, ArrowUp: -1, ArrowRight: 1, ArrowDown: 1 }[event.key]
    if (!by) return
    event.preventDefault()
    const to = Math.min(words.length - 1, Math.max(0, span.to + by))
    setSpan(event.shiftKey ? { ...span, to } : { from: to, to })
  }
  return (
    <section
      aria-label={t`Marker`}
      className="mb-4 flex max-w-[45rem] flex-wrap items-center gap-3 rounded-box bg-rail px-4 py-2"
    >
      <Button
        ref={hand}
        onKeyDown={walk}
        onClick={() => onChange(toggled(marked, words, first, last))}
      >
        {isMarked ? t`Unmark` : t`Mark`} “{said}”
      </Button>
      <span aria-live="polite" className="sr-only">
        {said}, {isMarked ? 'marked' : t`not marked`}
      </span>
      <Button
        kind="quiet"
        disabled={marked.length === 0}
        onClick={() => onChange([])}
      >{t`Remove all highlights`}</Button>
      <span className="text-sm text-ink-2">{t`Drag over the text or press a word. Or use the arrow keys, with Shift for several words.`}</span>
    </section>
  )
}

/** Whether a selection lies over a word; a mere press, in or beside it. */
function touches(one: Range, word: Range) {
  const starts = one.compareBoundaryPoints(Range.END_TO_START, word)
  const ends = one.compareBoundaryPoints(Range.START_TO_END, word)
  return one.collapsed ? starts <= 0 && ends >= 0 : starts < 0 && ends > 0
}
