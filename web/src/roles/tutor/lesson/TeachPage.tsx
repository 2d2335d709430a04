import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useParams } from 'react-router'
import type { Schemas } from '../../../api/client'
import { Button, buttonClass } from '../../../ui/Button'
import { Loaded } from '../../../ui/states'
import { TextLink } from '../../../ui/TextLink'
import { useTitle } from '../../../ui/useTitle'
import { counted, lowerFirst } from '../../../ui/words'
import { FamilyPreview } from '../../composing/FamilyPreview'
import { missedQuery } from '../queries'

type Missed = Schemas['MissedOut']
type Family = Missed['families'][number]

/** What a group missed most, why, and a short lesson made of it. */
export default function TeachPage() {
  const id = Number(useParams().group)
  const query = useQuery(missedQuery(id))
  useTitle(t`What to teach next`)
  return (
    <Loaded query={query} what={t`what was missed`}>
      {(missed) => <Teach id={id} missed={missed} />}
    </Loaded>
  )
}

function headline(missed: Missed) {
  const [first] = missed.families
  if (!first) return t`No question was missed by more than one learner`
  const why = first.answers[0]
  return why
    ? t`Teach “${lowerFirst(first.title)}”: ${first.missed} of ${first.answered} missed it, ${why.learners} in the same way`
    : t`Teach “${lowerFirst(first.title)}”: ${first.missed} of ${first.answered} missed it`
}

function Teach({ id, missed }: { id: number; missed: Missed }) {
  const [seen, setSeen] = useState<Family | null>(null)
  const set = missed.families.filter((one) => missed.set.includes(one.key))
  const query = new URLSearchParams(
    set.flatMap((one) => [
      ['idea', one.key],
      ['title', one.title],
    ]),
  )
  return (
    <main id="main" className="px-5 py-8 @5xl:px-8">
      <TextLink to={`/tutor/groups/${id}`}>{missed.group}</TextLink>
      <h1 className="mt-1 text-3xl">{headline(missed)}</h1>
      <p className="mt-1.5 text-ink-2">{t`First answers of the last ${counted(missed.days, 'day')}, most missed first.`}</p>
      {missed.families.length > 0 && (
        <div className="mt-6 grid gap-x-12 gap-y-8 @5xl:grid-cols-[minmax(0,1fr)_24rem]">
          <ol>
            {missed.families.map((family) => (
              <li key={family.key} className="border-b border-line py-3.5">
                <div className="flex flex-wrap items-baseline justify-between gap-x-4">
                  <h2 className="font-sans text-lg font-semibold">
                    <button
                      type="button"
                      className="text-left text-gust hover:underline"
                      onClick={() => setSeen(family)}
                    >
                      {family.title}
                    </button>
                  </h2>
                  <p className="tabular-nums">
                    {t`${family.missed} of ${family.answered} learners missed it`}
                  </p>
                </div>
                <p className="text-ink-2">{family.topic.title}</p>
                <Answers family={family} />
              </li>
            ))}
          </ol>
          <aside aria-label={t`Mini lesson`} className="@5xl:sticky @5xl:top-6 @5xl:self-start">
            <h2 className="text-xl">{t`Mini lesson`}</h2>
            <h3 className="mt-3 font-sans font-semibold">{t`Explain again`}</h3>
            <ul className="mt-1">
              {missed.read.map((one) => (
                <li key={`${one.topic.key}/${one.section}`} className="py-0.5">
                  {one.title}
                  <span className="text-ink-2"> {t`(${one.topic.title}, ${one.minutes} min)`}</span>
                </li>
              ))}
            </ul>
            <h3 className="mt-3 font-sans font-semibold">{t`Show with new numbers`}</h3>
            <ul className="mt-1">
              {missed.families
                .filter((one) => missed.show.includes(one.key))
                .map((one) => (
                  <li key={one.key}>
                    <Button kind="quiet" className="-ml-2 text-left" onClick={() => setSeen(one)}>
                      {one.title}
                    </Button>
                  </li>
                ))}
            </ul>
            <h3 className="mt-3 font-sans font-semibold">{t`Then set`}</h3>
            <p className="mt-1">
              {t`${set.map((one) => one.title).join(', ')}, until each learner gets it right twice.`}
            </p>
            <Link
              to={`/tutor/work/${id}/new?${query.toString()}`}
              className={`${buttonClass('strong')} mt-3`}
            >{t`Set work`}</Link>
          </aside>
        </div>
      )}
      {seen && <FamilyPreview course={missed.course} family={seen} onClose={() => setSeen(null)} />}
    </main>
  )
}

function Answers({ family }: { family: Family }) {
  if (family.answers.length === 0)
    return <p className="mt-1">{t`No two learners made the same mistake.`}</p>
  return (
    <ul className="mt-1.5">
      {family.answers.map((one) => (
        <li key={one.given} className="grid grid-cols-[5.500rem_minmax(0,1fr)] gap-x-3 py-0.5">
          <span className="text-ink-2 tabular-nums">
            {one.learners} {one.learners === 1 ? 'learner' : 'learners'}
          </span>
          <span>
            {one.given}
            {one.says && <span className="block text-ink-2">{one.says}</span>}
          </span>
        </li>
      ))}
    </ul>
  )
}
