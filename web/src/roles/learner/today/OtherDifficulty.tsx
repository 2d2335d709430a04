import { t } from '@lingui/core/macro'
import { useTo } from '../../../account/course'
import type { Schemas } from '../../../api/client'
import { TextLink } from '../../../ui/TextLink'

/** Work of another difficulty, where set work has been too hard or too easy four times of five. */
export function OtherDifficulty({ what }: { what: Schemas['TodayOut']['challenge'] }) {
  const to = useTo()
  if (!what) return null
  const hard = what === 'too_hard'
  return (
    <section aria-label={t`Other difficulty`} className="mt-6 border-l-4 border-gust-mid py-1 pl-4">
      <p>
        {hard
          ? t`Four of your latest five pieces of set work were under 50 %. Practice fits its questions to you: about three of four come out right, and it edges up from there.`
          : t`Four of your latest five pieces of set work were over 90 %. A quiz of what is hardest for you tells more.`}
      </p>
      <p className="mt-1">
        <TextLink to={to(hard ? '/practise' : '/quiz')} className="font-semibold">
          {hard ? t`Choose what to practise` : t`Make a quiz of the hardest`}
        </TextLink>
      </p>
    </section>
  )
}
