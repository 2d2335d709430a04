import { loadMath } from '../../../ui/Html'
import { PaperLine } from '../shared/paper'
import type { KindView } from '../view'
import { Answer, loadFormula } from './Answer'
import { Review } from './Review'

export const textEntry: KindView<'text_entry'> = {
  Answer,
  Review,
  Printed: ({ part, value }) => (
    <p>
      <PaperLine given={value} /> {part.unit}
    </p>
  ),
  load: async (part) => {
    if (part.value === 'expression') await Promise.all([loadFormula(), loadMath()])
  },
  typed: true,
  narrow: true,
}
