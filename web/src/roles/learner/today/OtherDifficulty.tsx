import { t } from '@lingui/core/macro'
import { useTo } from '../../../account/course'
import type { Schemas } from '../../../api/client'
import { TextLink } from '../../../ui/TextLink'

/** Work of another difficulty, where set work has been too hard or too easy four times of five. */
export default function OtherDifficulty({ what }: { what: Schemas['Challenge'] }) {
  const to = useTo()
  const hard = what === 'too_hard'
  return (
    <section
      aria-label={t`Too easy or too hard?`}
      className="mt-6 border-l-4 border-gust-mid py-1 pl-4"
    >
      <p>
        {hard
          ? t`You got under 50% in four of your last five tasks. Practice picks questions that fit you: you’ll get about three out of four right.`
          : t`You got over 90% in four of your last five tasks. A quiz with harder questions would show more.`}
      </p>
      <p className="mt-1">
        <TextLink to={to(hard ? '/practise' : '/quiz')} className="font-semibold">
          {hard ? t`Choose what to practise` : t`Make a harder quiz`}
        </TextLink>
      </p>
    </section>
  )
}
