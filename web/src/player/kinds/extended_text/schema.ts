import { type Editor, Extension, mergeAttributes, Node } from '@tiptap/core'
import { Bold } from '@tiptap/extension-bold'
import { Document } from '@tiptap/extension-document'
import { HardBreak } from '@tiptap/extension-hard-break'
import { Italic } from '@tiptap/extension-italic'
import { BulletList, ListItem, ListKeymap, OrderedList } from '@tiptap/extension-list'
import { Paragraph } from '@tiptap/extension-paragraph'
import { Subscript } from '@tiptap/extension-subscript'
import { Superscript } from '@tiptap/extension-superscript'
import { Table, TableCell, TableHeader, TableRow } from '@tiptap/extension-table'
import { Text } from '@tiptap/extension-text'
import { Underline } from '@tiptap/extension-underline'
import { Gapcursor, TrailingNode, UndoRedo } from '@tiptap/extensions'
import { closeHistory } from '@tiptap/pm/history'
import type { Node as Doc } from '@tiptap/pm/model'
import { NodeSelection, Plugin } from '@tiptap/pm/state'
import { setMath } from '../../../ui/Html'

const LONGEST = 50_000
const MOST_NODES = 3_500
const DEEPEST = 12
const SURELY_SHORT = 1_500
const ITEM = 'paragraph (paragraph | bulletList | orderedList)*'

/** Whether a text is short and flat enough to be kept. */
function fits(doc: Doc): boolean {
  if (doc.content.size < SURELY_SHORT) return true
  let nodes = 0
  let deepest = 0
  doc.descendants((_node, at) => {
    nodes += 1
    if (nodes % 50 === 0) deepest = Math.max(deepest, doc.resolve(at).depth)
  })
  return nodes < MOST_NODES && deepest < DEEPEST && JSON.stringify(doc).length < LONGEST
}

/** Takes nothing in that would make the text longer than can be kept. */
const Room = Extension.create<{ onFull: () => void }>({
  name: 'room',
  addOptions: () => ({ onFull: () => undefined }),
  addProseMirrorPlugins() {
    const { onFull } = this.options
    const filterTransaction: Plugin['spec']['filterTransaction'] = (change, { doc }) => {
      const takes = !change.docChanged || change.doc.content.size <= doc.content.size
      if (takes || fits(change.doc)) return true
      onFull()
      return false
    }
    return [new Plugin({ filterTransaction })]
  },
})

/** A formula among the words, set as mathematics. text: as it was typed. */
const Formula = Node.create({
  name: 'formula',
  group: 'inline',
  inline: true,
  atom: true,
  addAttributes: () => ({ tex: { default: '' }, text: { default: '' } }),
  parseHTML: () => [
    {
      tag: 'span[data-tex]',
      getAttrs: (node) => ({ tex: node.dataset.tex, text: node.dataset.text }),
    },
  ],
  renderHTML: ({ node, HTMLAttributes }) => [
    'span',
    mergeAttributes({ 'data-tex': node.attrs.tex, 'data-text': node.attrs.text }, HTMLAttributes),
    node.attrs.text,
  ],
  renderText: ({ node }) => node.attrs.text,
  addNodeView:
    () =>
    ({ node }) => {
      const dom = document.createElement('span')
      dom.className = 'rich-formula'
      void setMath(dom, node.attrs.tex)
      return { dom, ignoreMutation: () => true }
    },
})

/** Whether a whole table is selected as one thing. */
const onTable = (editor: Editor) => {
  const { selection } = editor.state
  return selection instanceof NodeSelection && selection.node.type.name === 'table'
}

/** A table that Tab walks through and then leaves, and that no single key takes away. */
const PlainTable = Table.extend({
  addKeyboardShortcuts() {
    const kept = () => onTable(this.editor)
    return {
      Tab: () => this.editor.commands.goToNextCell(),
      'Shift-Tab': () => this.editor.commands.goToPreviousCell(),
      Backspace: kept,
      Delete: kept,
    }
  },
})

/** Items that Tab leaves like any other field. */
const PlainItem = ListItem.extend({
  content: ITEM,
  addKeyboardShortcuts() {
    return { Enter: () => this.editor.commands.splitListItem(this.name) }
  },
})

/** What follows is a step of its own for Undo. */
export const apart = (editor: Editor) =>
  editor.chain().command(({ tr }) => Boolean(closeHistory(tr)))

/** All that can be in a written answer; the core's rich_text.py knows the same. */
export const extensions = (onFull: () => void) => [
  Document.extend({ content: '(paragraph | bulletList | orderedList | table)+' }),
  Paragraph,
  Text,
  HardBreak,
  Bold,
  Italic,
  Underline,
  Subscript.extend({ excludes: 'superscript' }),
  Superscript.extend({ excludes: 'subscript' }),
  BulletList,
  OrderedList,
  PlainItem,
  ListKeymap,
  PlainTable.configure({ resizable: false }),
  TableRow,
  TableHeader.extend({ content: ITEM }),
  TableCell.extend({ content: ITEM }),
  Formula,
  Gapcursor,
  TrailingNode,
  UndoRedo.configure({ depth: 200 }),
  Room.configure({ onFull }),
]
