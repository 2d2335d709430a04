import { useCallback, useEffect, useRef, useState } from 'react'

export const SPEEDS = [0.75, 1, 1.25, 1.5]
const WORDS_A_MINUTE = 170
const HIGHLIGHT = 'spoken'
const SKIPPED = '[aria-hidden="true"], .sr-only, svg, annotation, button, input, select, textarea'

interface Word {
  range: Range
  from: number
}

/** The text of a part of the page as it is read, and where each of its words stands. */
export function wordsIn(root: Element): { text: string; words: Word[] } {
  const walker = document.createTreeWalker(root, NodeFilter.SHOW_TEXT, {
    acceptNode: (node) =>
      node.parentElement?.closest(SKIPPED) ? NodeFilter.FILTER_REJECT : NodeFilter.FILTER_ACCEPT,
  })
  let text = ''
  const words: Word[] = []
  for (let node = walker.nextNode(); node; node = walker.nextNode()) {
    const content = node.textContent ?? ''
    for (const found of content.matchAll(/\S+/g)) {
      const range = document.createRange()
      range.setStart(node, found.index)
      range.setEnd(node, found.index + found[0].length)
      words.push({ range, from: text.length + found.index })
    }
    text += `${content} `
  }
  return { text, words }
}

function mark(word: Word | undefined) {
  if (!('highlights' in CSS)) return
  if (word) CSS.highlights.set(HIGHLIGHT, new Highlight(word.range))
  else CSS.highlights.delete(HIGHLIGHT)
}

const voices = () => ('speechSynthesis' in window ? window.speechSynthesis.getVoices() : [])

/**
 * Reads a part of the page: aloud where this device has voices, else by marking word after word
 * at the pace of reading. Both mark the word they are at.
 */
export function useAloud() {
  const [reading, setReading] = useState(false)
  const [speed, setSpeed] = useState(1)
  const timer = useRef(0)
  const stop = useCallback(() => {
    window.clearTimeout(timer.current)
    if ('speechSynthesis' in window) window.speechSynthesis.cancel()
    mark(undefined)
    setReading(false)
  }, [])
  useEffect(() => stop, [stop])

  const start = useCallback(
    (root: Element | null, at: number) => {
      stop()
      if (!root) return
      const { text, words } = wordsIn(root)
      if (words.length === 0) return
      setReading(true)
      const [voice] = voices().filter(({ lang }) => lang.startsWith('en'))
      if (voice) {
        const spoken = new SpeechSynthesisUtterance(text)
        spoken.voice = voice
        spoken.rate = at
        spoken.onboundary = ({ charIndex }) =>
          mark(words.findLast((word) => word.from <= charIndex))
        spoken.onend = stop
        window.speechSynthesis.speak(spoken)
        return
      }
      const step = (index: number) => {
        const word = words[index]
        if (!word) return stop()
        mark(word)
        const letters = word.range.toString().length
        const pause = (60_000 / WORDS_A_MINUTE / at) * (0.5 + letters / 10)
        timer.current = window.setTimeout(() => step(index + 1), pause)
      }
      step(0)
    },
    [stop],
  )
  return { reading, speed, setSpeed, start, stop, silent: voices().length === 0 }
}
