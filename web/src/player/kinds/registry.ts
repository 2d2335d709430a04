import type { Part } from '../../api/client'
import { associate } from './associate'
import { byRules } from './by_rules'
import { choice } from './choice'
import { drawing } from './drawing'
import { extendedText } from './extended_text'
import { gapMatch } from './gap_match'
import { graphicGapMatch } from './graphic_gap_match'
import { gridShading } from './grid_shading'
import { hotText } from './hot_text'
import { hotspot } from './hotspot'
import { inlineChoice } from './inline_choice'
import { match } from './match'
import { oddOneOut } from './odd_one_out'
import { order } from './order'
import { points } from './points'
import { slider } from './slider'
import { tableEntry } from './table_entry'
import { textEntry } from './text_entry'
import { upload } from './upload'
import type { Kind, KindView } from './view'

/** One view for each kind that the API can send: a kind without one does not compile. */
const KINDS: { [K in Kind]: KindView<K> } = {
  associate,
  by_rules: byRules,
  choice,
  drawing,
  extended_text: extendedText,
  gap_match: gapMatch,
  graph: points,
  graphic_gap_match: graphicGapMatch,
  grid_shading: gridShading,
  hot_text: hotText,
  hotspot,
  inline_choice: inlineChoice,
  match,
  odd_one_out: oddOneOut,
  order,
  position_object: points,
  select_point: points,
  slider,
  table_entry: tableEntry,
  text_entry: textEntry,
  upload,
}

/** The view of a part's kind. */
export const viewOf = <K extends Kind>(part: Extract<Part, { kind: K }> | Part): KindView<K> =>
  KINDS[part.kind] as unknown as KindView<K>

/** Fetch what these parts need, so that showing them asks for nothing. */
export const loadParts = (parts: Part[]) =>
  Promise.all(
    parts
      .flatMap((part): Part[] => (part.kind === 'by_rules' ? part.parts : [part]))
      .map((part) => viewOf(part).load?.(part as never)),
  )

/** The value of a part after each digit that chooses something in it. */
export function digitsOf(part: Part | undefined): ((value: string) => string)[] {
  if (!part) return []
  const view = viewOf(part)
  return Array.from(
    { length: view.digits?.(part as never) ?? 0 },
    (_, i) => (value: string) => view.afterDigit?.(part as never, value, i + 1) ?? value,
  )
}
