import type { Part } from '../../../api/client'

export const loadSlots = () => import('../slots/Answer')
export const loadOrder = () => import('../order/Answer')
export const loadPoints = () => import('../points/Answer')
export const loadFormula = () => import('../text_entry/FormulaField')

const LOADERS: Partial<Record<Part['kind'], () => Promise<unknown>>> = {
  order: loadOrder,
  match: loadSlots,
  gap_match: loadSlots,
  graphic_gap_match: loadSlots,
  select_point: loadPoints,
  position_object: loadPoints,
  graph: loadPoints,
}

/** Fetch what these parts need, so that showing them asks for nothing. */
export async function loadParts(parts: Part[]) {
  await Promise.all(
    parts.flatMap((part) => {
      const wanted = [LOADERS[part.kind]?.()]
      if (part.kind === 'text_entry' && part.value === 'expression') wanted.push(loadFormula())
      return wanted
    }),
  )
}
