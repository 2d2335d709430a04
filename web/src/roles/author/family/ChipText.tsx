import { defaultKeymap, history, historyKeymap } from '@codemirror/commands'
import { EditorState } from '@codemirror/state'
import { EditorView, keymap } from '@codemirror/view'
import { t } from '@lingui/core/macro'
import { useEffect, useId, useRef, useState } from 'react'
import { Button } from '../../../ui/Button'
import { Wrong } from '../../composing/Pick'
import { chips, oneLine, setFilled, varyingAt } from './chips'
import { useFamily } from './context'
import { asRead, nonce } from './theme'

interface Props {
  label: string
  value: string
  onChange: (text: string) => void
  /** Whether it has several lines. */
  lines?: boolean
  large?: boolean
  problem?: string
  /** Has a number or word vary from now on. whole: the text with a place put where it stood. */
  onVary?: (text: string, before: string, whole: (slot: string) => string) => void
}

/** A text as its learners read it: what varies stands in it as a chip with its value. */
export function ChipText({ label, value, onChange, lines, large, problem, onVary }: Props) {
  const { filled, choose } = useFamily()
  const place = useRef<HTMLDivElement>(null)
  const view = useRef<EditorView | null>(null)
  const told = useRef({ onChange, choose })
  told.current = { onChange, choose }
  const [number, setNumber] = useState<string | null>(null)
  const id = useId()

  // biome-ignore lint/correctness/useExhaustiveDependencies: made once, then told what changes
  useEffect(() => {
    if (!place.current) return
    const made = new EditorView({
      parent: place.current,
      state: EditorState.create({
        doc: value,
        extensions: [
          chips(filled, (expression) => told.current.choose(expression)),
          history(),
          keymap.of([...defaultKeymap, ...historyKeymap]),
          EditorView.lineWrapping,
          nonce,
          asRead(!!large),
          EditorView.contentAttributes.of({
            'aria-label': label,
            'aria-describedby': id,
            'aria-multiline': String(!!lines),
            spellcheck: 'true',
          }),
          lines ? [] : oneLine,
          EditorView.updateListener.of((update) => {
            if (update.docChanged) told.current.onChange(update.state.doc.toString())
            if (update.docChanged || update.selectionSet)
              setNumber(varyingAt(update.state)?.text ?? null)
          }),
        ],
      }),
    })
    view.current = made
    return () => made.destroy()
  }, [])
  useEffect(() => {
    const made = view.current
    if (made && made.state.doc.toString() !== value)
      made.dispatch({ changes: { from: 0, to: made.state.doc.length, insert: value } })
  }, [value])
  useEffect(() => view.current?.dispatch({ effects: setFilled.of(filled) }), [filled])

  const vary = () => {
    const made = view.current
    const found = made && varyingAt(made.state)
    if (!made || !found || !onVary) return
    const before = made.state.sliceDoc(0, found.from)
    onVary(found.text, before, (slot) => before + slot + made.state.sliceDoc(found.to))
    made.focus()
  }
  return (
    <div className="min-w-0">
      <div ref={place} className={problem ? 'rounded-lg ring-2 ring-wrong' : ''} />
      <Wrong id={id} says={problem} />
      {onVary && (
        <p className="mt-1 flex min-h-10 flex-wrap items-center gap-2 text-sm text-ink-2">
          {number === null ? (
            t`Put the cursor in a number, or mark a word, to let it vary. Press a coloured one to say what it may be.`
          ) : (
            <Button kind="quiet" onClick={vary}>{t`Let ${number} vary`}</Button>
          )}
        </p>
      )}
    </div>
  )
}
