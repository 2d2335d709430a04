import { t } from '@lingui/core/macro'
import type { Editor } from '@tiptap/core'
import { lazy, Suspense, useState } from 'react'
import { Button } from '../../../ui/Button'
import { apart } from './schema'

const FormulaField = lazy(() => import('../text_entry/FormulaField'))

/** A formula for the text: a new one, or the one that is selected. */
export function Formula({ editor, close }: { editor: Editor; close: () => void }) {
  const before = editor.isActive('formula') ? editor.getAttributes('formula') : null
  const [formula, setFormula] = useState({ text: before?.text ?? '', tex: before?.tex ?? '' })
  const keep = () => {
    const tex = formula.tex.replace(/\\placeholder\{[^}]*\}/g, '{}')
    apart(editor)
      .focus()
      .insertContent({ type: 'formula', attrs: { ...formula, tex } })
      .run()
    close()
  }
  return (
    <section
      aria-label={t`Formula`}
      className="flex flex-wrap items-end gap-2 border-b border-line bg-rail px-3 py-2"
      onKeyDown={(event) => event.key === 'Escape' && close()}
    >
      <Suspense fallback={<p className="text-ink-2">{t`Loading…`}</p>}>
        <FormulaField
          value={formula.text}
          onChange={(text, tex) => setFormula({ text, tex })}
          label={t`Formula`}
        />
      </Suspense>
      <Button kind="strong" disabled={formula.text.trim() === ''} onClick={keep}>
        {before ? t`Change the formula` : t`Put in the formula`}
      </Button>
      <Button onClick={close}>{t`Cancel`}</Button>
    </section>
  )
}
