import {
  EditorState,
  type Extension,
  type Range,
  RangeSetBuilder,
  StateEffect,
  StateField,
} from '@codemirror/state'
import { Decoration, type DecorationSet, EditorView, WidgetType } from '@codemirror/view'

/** What the places of a text give in the version on screen, by expression. */
export type Filled = ReadonlyMap<string, string>

export const setFilled = StateEffect.define<Filled>()

class Chip extends WidgetType {
  constructor(
    readonly expression: string,
    readonly shown: string | undefined,
  ) {
    super()
  }
  override eq(other: Chip) {
    return other.expression === this.expression && other.shown === this.shown
  }
  override toDOM() {
    const chip = document.createElement('span')
    chip.classList.add('chip')
    chip.classList.toggle('chip-unknown', this.shown === undefined)
    chip.textContent = this.shown ?? this.expression
    chip.title = this.expression
    chip.dataset.expression = this.expression
    return chip
  }
  override ignoreEvent() {
    return false
  }
}

const SLOT = /\[\[([\s\S]+?)\]\]/g
const STRESS = /(\*\*?)(?=\S)((?:(?!\*)[^\n])+?)\1(?!\*)/g
const STRONG = Decoration.mark({ class: 'strongly' })
const SLANTED = Decoration.mark({ class: 'slanted' })
const HIDDEN = Decoration.replace({})

interface Drawn {
  filled: Filled
  marks: DecorationSet
  chips: DecorationSet
}

function drawn(state: EditorState, filled: Filled): Drawn {
  const text = state.doc.toString()
  const chips = new RangeSetBuilder<Decoration>()
  for (const found of text.matchAll(SLOT)) {
    const expression = (found[1] ?? '').trim()
    const widget = new Chip(expression, filled.get(found[1] ?? '') ?? filled.get(expression))
    chips.add(found.index, found.index + found[0].length, Decoration.replace({ widget }))
  }
  return { filled, marks: stressed(state, text), chips: chips.finish() }
}

/** Bold and italics as they are read; their stars only show where the cursor is. */
function stressed(state: EditorState, text: string): DecorationSet {
  const { from: first, to: last } = state.selection.main
  const marks: Range<Decoration>[] = []
  // A place may hold stars of its own: they multiply.
  const plain = text.replace(SLOT, (slot) => 'x'.repeat(slot.length))
  for (const { index, 0: all, 1: stars = '' } of plain.matchAll(STRESS)) {
    const end = index + all.length
    marks.push((stars.length > 1 ? STRONG : SLANTED).range(index, end))
    if (last < index || end < first)
      marks.push(HIDDEN.range(index, index + stars.length), HIDDEN.range(end - stars.length, end))
  }
  return Decoration.set(marks, true)
}

/** The places of a text drawn as what they give, each as one letter to the cursor. */
export function chips(filled: Filled, onChoose: (expression: string) => void): Extension {
  const field = StateField.define<Drawn>({
    create: (state) => drawn(state, filled),
    update: (before, change) => {
      const effect = change.effects.find((one) => one.is(setFilled))
      if (effect) return drawn(change.state, effect.value as Filled)
      return change.docChanged || change.selection ? drawn(change.state, before.filled) : before
    },
    provide: (self) => [
      EditorView.decorations.from(self, ({ chips: all }) => all),
      EditorView.decorations.from(self, ({ marks }) => marks),
      EditorView.atomicRanges.of((view) => view.state.field(self).chips),
    ],
  })
  const press = EditorView.domEventHandlers({
    mousedown: (event) => {
      const chip = (event.target as HTMLElement).closest<HTMLElement>('[data-expression]')
      if (!chip?.dataset.expression) return false
      onChoose(chip.dataset.expression)
      return true
    },
  })
  return [field, press]
}

/** A text of one line takes no other. */
export const oneLine = EditorState.transactionFilter.of((change) =>
  change.newDoc.lines > 1 ? [] : change,
)

const NUMBER = /\d{1,2}:\d{2}|\d+(?:\.\d+)?/g

/** The number that the cursor stands at, or what is marked: what could vary. */
export function varyingAt(state: EditorState): { from: number; to: number; text: string } | null {
  const { from, to } = state.selection.main
  const text = state.doc.toString()
  const inside = [...text.matchAll(SLOT)].some(
    ({ index, 0: all }) => index < to && from < index + all.length,
  )
  if (inside) return null
  for (const found of text.matchAll(NUMBER)) {
    const end = found.index + found[0].length
    if (found.index <= from && to <= end) return { from: found.index, to: end, text: found[0] }
  }
  const marked = text.slice(from, to)
  const word = marked.trim()
  if (!/^\p{L}[\p{L}\s-]*$/u.test(word)) return null
  const start = from + marked.indexOf(word)
  return { from: start, to: start + word.length, text: word }
}
