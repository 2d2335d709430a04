import { t } from '@lingui/core/macro'
import { plain } from '../../account/ChangedNote'
import type { Json } from '../../account/merging'
import { capital, counted } from '../../ui/words'
import type { NewTest } from './queries'

type Section = NewTest['composition']['sections'][number]

const LABELS: Record<string, string> = {
  title: t`Title`,
  directions: t`Instructions`,
  materials: t`What to bring`,
  'composition.sections': t`Questions`,
  'composition.same_versions': t`Same numbers for everyone`,
  'composition.shuffled_choices': t`Choices shuffled for each learner`,
  'composition.seed': t`Which numbers are drawn`,
}

/** What a path of a test is called where two changes of it are put together. */
export const labelOf = (path: string) =>
  LABELS[path] ?? capital(path.replace(/^rules\./, '').replaceAll(/[._]/g, ' '))

/** A value of it in words: of sections how many questions there are, and which. */
export function wordsOf(path: string, value: Json | undefined): string {
  if (path !== 'composition.sections' || !Array.isArray(value)) return plain(path, value)
  return (value as unknown as Section[])
    .map(({ title, entries }) => {
      const of = counted(
        entries.reduce((sum, entry) => sum + entry.count, 0),
        'question',
      )
      return `${title}: ${of} (${entries.map((one) => one.families.join(' or ')).join(', ')})`
    })
    .join('; ')
}
