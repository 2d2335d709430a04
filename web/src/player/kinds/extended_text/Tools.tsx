import { t } from '@lingui/core/macro'
import type { Editor } from '@tiptap/core'
import { useEditorState } from '@tiptap/react'
import {
  Bold,
  Italic,
  List,
  ListOrdered,
  type LucideIcon,
  Omega,
  Redo2,
  SquareFunction,
  Subscript,
  Superscript,
  Table,
  Underline,
  Undo2,
} from 'lucide-react'
import { Toolbar } from 'radix-ui'
import { useState } from 'react'
import { Characters } from './Characters'
import { Formula } from './Formula'
import { apart } from './schema'

const BUTTON =
  'flex size-9 items-center justify-center rounded-md hover:bg-gust-soft disabled:opacity-40 aria-pressed:bg-gust-soft aria-pressed:text-gust aria-expanded:bg-gust-soft'
const ROWS = 3
const COLUMNS = 3

interface Tool {
  icon: LucideIcon
  name: string
  keys?: string
  on?: boolean
  off?: boolean
  act: () => void
}

function ToolButton({ icon: Icon, name, keys, on, off, act }: Tool) {
  return (
    <Toolbar.Button
      type="button"
      className={BUTTON}
      aria-label={name}
      aria-pressed={on}
      aria-keyshortcuts={keys?.replace('Ctrl', 'Control')}
      title={keys ? `${name} (${keys})` : name}
      disabled={off}
      // The selection stays in the text while a tool is pressed.
      onMouseDown={(event) => event.preventDefault()}
      onClick={act}
    >
      <Icon size={18} aria-hidden="true" />
    </Toolbar.Button>
  )
}

/** The tools of a text, above it: one stop of Tab, arrows from one to the next. */
export function Tools({ editor }: { editor: Editor }) {
  const [open, setOpen] = useState<'characters' | 'formula' | null>(null)
  const at = useEditorState({
    editor,
    selector: ({ editor }) => ({
      bold: editor.isActive('bold'),
      italic: editor.isActive('italic'),
      underline: editor.isActive('underline'),
      subscript: editor.isActive('subscript'),
      superscript: editor.isActive('superscript'),
      bullets: editor.isActive('bulletList'),
      numbers: editor.isActive('orderedList'),
      table: editor.isActive('table'),
      formula: editor.isActive('formula'),
      undo: editor.can().undo(),
      redo: editor.can().redo(),
    }),
  })
  const run = () => apart(editor).focus()
  const marks: Tool[] = [
    {
      icon: Bold,
      name: t`Bold`,
      keys: 'Ctrl+B',
      on: at.bold,
      act: () => run().toggleBold().run(),
    },
    {
      icon: Italic,
      name: t`Italic`,
      keys: 'Ctrl+I',
      on: at.italic,
      act: () => run().toggleItalic().run(),
    },
    {
      icon: Underline,
      name: t`Underline`,
      keys: 'Ctrl+U',
      on: at.underline,
      act: () => run().toggleUnderline().run(),
    },
    {
      icon: Subscript,
      name: t`Below the line`,
      keys: 'Ctrl+,',
      on: at.subscript,
      act: () => run().toggleSubscript().run(),
    },
    {
      icon: Superscript,
      name: t`Above the line`,
      keys: 'Ctrl+.',
      on: at.superscript,
      act: () => run().toggleSuperscript().run(),
    },
    {
      icon: List,
      name: t`List`,
      keys: 'Ctrl+Shift+8',
      on: at.bullets,
      act: () => run().toggleBulletList().run(),
    },
    {
      icon: ListOrdered,
      name: t`Numbered list`,
      keys: 'Ctrl+Shift+7',
      on: at.numbers,
      act: () => run().toggleOrderedList().run(),
    },
    {
      icon: Table,
      name: t`Table`,
      off: at.table,
      act: () => run().insertTable({ rows: ROWS, cols: COLUMNS, withHeaderRow: true }).run(),
    },
  ]
  const steps: Tool[] = [
    {
      icon: Undo2,
      name: t`Undo`,
      keys: 'Ctrl+Z',
      off: !at.undo,
      act: () => editor.chain().focus().undo().run(),
    },
    {
      icon: Redo2,
      name: t`Redo`,
      keys: 'Ctrl+Y',
      off: !at.redo,
      act: () => editor.chain().focus().redo().run(),
    },
  ]
  const toggle = (which: 'characters' | 'formula') => () => setOpen(open === which ? null : which)
  return (
    <>
      <Toolbar.Root
        aria-label={t`Text tools`}
        className="flex flex-wrap gap-0.5 border-b border-line px-2 py-1"
      >
        {marks.map((tool) => (
          <ToolButton key={tool.name} {...tool} />
        ))}
        <Toolbar.Button
          type="button"
          className={BUTTON}
          aria-label={t`Formula`}
          title={t`Formula`}
          aria-expanded={open === 'formula'}
          onClick={toggle('formula')}
        >
          <SquareFunction size={18} aria-hidden="true" />
        </Toolbar.Button>
        <Toolbar.Button
          type="button"
          className={BUTTON}
          aria-label={t`Special characters`}
          title={t`Special characters`}
          aria-expanded={open === 'characters'}
          onClick={toggle('characters')}
        >
          <Omega size={18} aria-hidden="true" />
        </Toolbar.Button>
        {steps.map((tool) => (
          <ToolButton key={tool.name} {...tool} />
        ))}
      </Toolbar.Root>
      {at.table && <TableTools editor={editor} />}
      {open === 'characters' && (
        <Characters
          put={(character) => apart(editor).insertContent(character).run()}
          close={() => {
            setOpen(null)
            editor.commands.focus()
          }}
        />
      )}
      {open === 'formula' && (
        <Formula
          editor={editor}
          close={() => {
            setOpen(null)
            editor.commands.focus()
          }}
        />
      )}
    </>
  )
}

function TableTools({ editor }: { editor: Editor }) {
  const run = () => apart(editor).focus()
  const tools: [string, () => void][] = [
    [t`Row below`, () => run().addRowAfter().run()],
    [t`Column right`, () => run().addColumnAfter().run()],
    [t`Remove row`, () => run().deleteRow().run()],
    [t`Remove column`, () => run().deleteColumn().run()],
    [t`Remove table`, () => run().deleteTable().run()],
  ]
  return (
    <Toolbar.Root
      aria-label={t`Table tools`}
      className="flex flex-wrap gap-0.5 border-b border-line bg-rail px-2 py-1 text-sm"
    >
      {tools.map(([name, act]) => (
        <Toolbar.Button
          key={name}
          type="button"
          className="min-h-8 rounded-md px-2.5 hover:bg-gust-soft"
          onMouseDown={(event) => event.preventDefault()}
          onClick={act}
        >
          {name}
        </Toolbar.Button>
      ))}
    </Toolbar.Root>
  )
}
