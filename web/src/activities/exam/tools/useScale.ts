import { useEffect, useState } from 'react'
import { scaleOf, USUAL_REM } from './instruments'

const WIDE_REMS = 34
const REMS = 28

/** How much larger than usual the figure of the question is shown, or its text. */
function scaleNow(): number {
  const figure = document.querySelector('main .figure')
  const width = figure?.getBoundingClientRect().width
  if (!figure || !width) {
    const { fontSize } = getComputedStyle(document.documentElement)
    return Number.parseFloat(fontSize) / USUAL_REM
  }
  return scaleOf(width, figure.parentElement?.dataset.over === undefined ? REMS : WIDE_REMS)
}

/** The same, as it changes with the window and the size of the text. */
export function useScale(): number {
  const [scale, setScale] = useState(scaleNow)
  useEffect(() => {
    // The page changes its size with the window, the text and the question in view.
    const seen = new ResizeObserver(() => setScale(scaleNow()))
    seen.observe(document.documentElement)
    return () => seen.disconnect()
  }, [])
  return scale
}
