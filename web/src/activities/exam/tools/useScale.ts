import { useEffect, useState } from 'react'
import { scaleOf } from './instruments'

const WIDE_REMS = 34
const REMS = 28

/** How much larger than usual the figure of the question is shown, or its text. */
function scaleNow(): number {
  const figure = document.querySelector('main .figure')
  if (!figure) return Number.parseFloat(getComputedStyle(document.documentElement).fontSize) / 16
  const rems = figure.parentElement?.dataset.over === undefined ? REMS : WIDE_REMS
  return scaleOf(figure.getBoundingClientRect().width, rems)
}

/** The same, as it changes with the window and the size of the text. */
export function useScale(): number {
  const [scale, setScale] = useState(scaleNow)
  useEffect(() => {
    const again = () => setScale(scaleNow())
    const seen = new ResizeObserver(again)
    seen.observe(document.querySelector('main .figure') ?? document.documentElement)
    return () => seen.disconnect()
  }, [])
  return scale
}
