import { t } from '@lingui/core/macro'
import { EditorContent, useEditor } from '@tiptap/react'
import { useEffect, useMemo, useRef, useState } from 'react'
import type { PartOf } from '../view'
import { type Lost, lostBy, putBack } from './lostTable'
import { extensions } from './schema'
import { Tools } from './Tools'
import { countWords, toDocument } from './words'
import './editor.css'

const HISTORY = 'history$'
const LOOK = ['prose-study', 'rich-text'].join(' ')

/** A text with structure, written with tools or keys. Gives its JSON, or nothing of an empty one. */
export default function Editor({
  part,
  name,
  value,
  onChange,
}: {
  part: PartOf<'extended_text'>
  name: string
  value: string
  onChange: (value: string) => void
}) {
  const given = useRef(value)
  const latest = useRef(onChange)
  latest.current = onChange
  const [words, setWords] = useState(0)
  const [lost, setLost] = useState<Lost | null>(null)
  const [full, setFull] = useState(false)
  const own = useMemo(() => extensions(() => setFull(true)), [])
  const editor = useEditor({
    extensions: own,
    content: toDocument(value),
    injectCSS: false,
    enableInputRules: false,
    enablePasteRules: false,
    shouldRerenderOnTransaction: false,
    editorProps: {
      attributes: {
        role: 'textbox',
        'aria-multiline': 'true',
        'aria-label': name,
        class: LOOK,
      },
    },
    onCreate: ({ editor }) => setWords(countWords(editor.getText({ blockSeparator: '\n' }))),
    onUpdate: ({ editor, transaction }) => {
      const text = editor.getText({ blockSeparator: '\n' })
      const next = text.trim() ? JSON.stringify(editor.getJSON()) : ''
      setWords(countWords(text))
      setFull(false)
      const gone = transaction.getMeta(HISTORY) ? null : lostBy(transaction)
      if (gone) setLost(gone)
      if (transaction.getMeta(HISTORY)) setLost(null)
      if (next === given.current) return
      given.current = next
      latest.current(next)
    },
  })
  useEffect(() => {
    if (value === given.current) return
    given.current = value
    editor.commands.setContent(toDocument(value), { emitUpdate: false })
    setWords(countWords(editor.getText({ blockSeparator: '\n' })))
  }, [value, editor])
  return (
    <div className="max-w-[42rem] rounded-box border-2 border-edge bg-sheet focus-within:border-gust">
      <Tools editor={editor} />
      <EditorContent editor={editor} />
      <div className="flex flex-wrap items-center gap-x-5 gap-y-1 border-t border-line px-4 py-1.5 text-sm text-ink-2">
        <p className="tabular-nums">{wordsSaid(words, part)}</p>
        <p role="status" className="flex flex-wrap items-center gap-3">
          {full && t`There’s no room for more in this text.`}
          {lost && (
            <>
              {t`A table was removed.`}
              <button
                type="button"
                className="font-semibold text-gust underline"
                onClick={() => {
                  putBack(editor, lost)
                  setLost(null)
                }}
              >{t`Put the table back`}</button>
            </>
          )}
        </p>
      </div>
    </div>
  )
}

function wordsSaid(
  words: number,
  { least_words: least, most_words: most }: PartOf<'extended_text'>,
) {
  const said = words === 1 ? t`1 word` : t`${words} words`
  if (least !== null && most !== null) return t`${said}, ${least} to ${most} asked for`
  if (least !== null) return t`${said}, at least ${least} asked for`
  if (most !== null) return t`${said}, at most ${most} asked for`
  return said
}
