import type { Editor } from '@tiptap/core'
import type { Node as Doc } from '@tiptap/pm/model'
import type { Transaction } from '@tiptap/pm/state'
import { apart } from './schema'

/** A table that went, or was emptied, with one change. */
export interface Lost {
  at: number
  table: Doc
}

function tablesOf(doc: Doc): Lost[] {
  const found: Lost[] = []
  doc.forEach((table, at) => {
    if (table.type.name === 'table') found.push({ at, table })
  })
  return found
}

const SOME = 2

/** What a change took away of the tables: one that is gone, or lost all that stood in it. */
export function lostBy(change: Transaction): Lost | null {
  for (const { at, table } of tablesOf(change.before)) {
    if (table.textContent.length < SOME) continue
    const { pos, deleted } = change.mapping.mapResult(at + 1)
    const here = deleted ? null : change.doc.resolve(pos).node(1)
    if (here?.type.name !== 'table' || here.textContent === '') return { at, table }
  }
  return null
}

/** Put a table back where it stood, in the place of what was left of it. */
export function putBack(editor: Editor, { at, table }: Lost) {
  const { doc } = editor.state
  const from = Math.min(at, doc.content.size)
  const stands = doc.nodeAt(from)
  const empty = stands?.type.name === 'table' && stands.textContent === ''
  const to = empty ? from + stands.nodeSize : from
  apart(editor).insertContentAt({ from, to }, table.toJSON()).focus().run()
}
