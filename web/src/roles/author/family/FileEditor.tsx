import { autocompletion, completionKeymap } from '@codemirror/autocomplete'
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands'
import { yaml } from '@codemirror/lang-yaml'
import { defaultHighlightStyle, syntaxHighlighting } from '@codemirror/language'
import { type Diagnostic, lintGutter, setDiagnostics } from '@codemirror/lint'
import { EditorState } from '@codemirror/state'
import { EditorView, keymap, lineNumbers } from '@codemirror/view'
import { t } from '@lingui/core/macro'
import { useEffect, useRef } from 'react'
import { fieldsHere } from './completion'
import type { Problem } from './queries'
import { asWritten, nonce } from './theme'

interface Props {
  text: string
  problems: Problem[]
  onChange: (text: string) => void
}

/** The same question as its file: fields are offered, and what is wrong stands at its line. */
export default function FileEditor({ text, problems, onChange }: Props) {
  const place = useRef<HTMLDivElement>(null)
  const view = useRef<EditorView | null>(null)
  const told = useRef(onChange)
  told.current = onChange

  // biome-ignore lint/correctness/useExhaustiveDependencies: made once, then told what changes
  useEffect(() => {
    if (!place.current) return
    const made = new EditorView({
      parent: place.current,
      state: EditorState.create({
        doc: text,
        extensions: [
          lineNumbers(),
          history(),
          yaml(),
          syntaxHighlighting(defaultHighlightStyle),
          autocompletion({ override: [fieldsHere] }),
          lintGutter(),
          keymap.of([...completionKeymap, ...defaultKeymap, ...historyKeymap]),
          EditorView.lineWrapping,
          nonce,
          asWritten,
          EditorView.contentAttributes.of({ 'aria-label': t`The file of this question` }),
          EditorView.updateListener.of((update) => {
            if (update.docChanged) told.current(update.state.doc.toString())
          }),
        ],
      }),
    })
    view.current = made
    return () => made.destroy()
  }, [])
  useEffect(() => {
    const made = view.current
    if (made && made.state.doc.toString() !== text)
      made.dispatch({ changes: { from: 0, to: made.state.doc.length, insert: text } })
  }, [text])
  useEffect(() => {
    const made = view.current
    if (made)
      made.dispatch(
        setDiagnostics(
          made.state,
          problems.map((one) => marked(made, one)),
        ),
      )
  }, [problems])
  return <div ref={place} />
}

function marked({ state }: EditorView, { line, field, says }: Problem): Diagnostic {
  const { from, to } = state.doc.line(Math.min(Math.max(line, 1), state.doc.lines))
  return { from, to, severity: 'error', message: field ? `${field}: ${says}` : says }
}
