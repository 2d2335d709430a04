import { MathfieldElement } from 'mathlive'
import 'mathlive/fonts.css'
import { useEffect, useRef } from 'react'

MathfieldElement.fontsDirectory = null
MathfieldElement.soundsDirectory = null

/** A field that shows a formula as mathematics while it is typed. Gives plain text, and TeX. */
export default function FormulaField({
  value,
  onChange,
  label,
}: {
  value: string
  onChange: (value: string, tex: string) => void
  label: string
}) {
  const place = useRef<HTMLDivElement>(null)
  const latest = useRef(onChange)
  latest.current = onChange
  const first = useRef(value)
  useEffect(() => {
    const field = new MathfieldElement()
    field.setAttribute('aria-label', label)
    field.mathVirtualKeyboardPolicy = 'manual'
    field.setValue(first.current, { format: 'ascii-math' })
    field.addEventListener('input', () =>
      latest.current(field.getValue('ascii-math'), field.getValue('latex')),
    )
    place.current?.replaceChildren(field)
    // Only a field that stands in the page has a menu to take away.
    field.menuItems = []
    field.focus()
    return () => field.remove()
  }, [label])
  return <div ref={place} className="formula-field" />
}
