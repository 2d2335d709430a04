import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { useDeferredValue, useState } from 'react'
import type { Schemas } from '../../api/client'
import { Button } from '../../ui/Button'
import { Check } from '../../ui/Check'
import { duration } from '../../ui/durations'
import { fieldClass, Input, Labelled } from '../../ui/Field'
import { capital, counted } from '../../ui/words'
import { FamilyPreview } from './FamilyPreview'
import { bankQuery } from './queries'

type Family = Schemas['FamilyLineOut']

interface Props {
  course: string
  topics: Schemas['PlaceOut'][]
  /** Families that are in the test already, each by itself. */
  taken: Set<string>
  /** What is said of those; only questions of a test are drawn from several. */
  takenSays?: string
  onAdd: (families: { key: string; title: string }[], count: number) => void
}

/** The bank by topic and words: add a question, look at its versions, or tick some to draw from. */
export function BankSearch({ course, topics, taken, takenSays, onAdd }: Props) {
  const [topic, setTopic] = useState(topics[0]?.key ?? '')
  const [words, setWords] = useState('')
  const [ticked, setTicked] = useState<Family[]>([])
  const [seen, setSeen] = useState<Family | null>(null)
  const filter = useDeferredValue({ topic: topic || undefined, words: words || undefined })
  const found = useQuery(bankQuery(course, filter)).data
  const tick = (family: Family, on: boolean) =>
    setTicked(on ? [...ticked, family] : ticked.filter((one) => one.key !== family.key))
  return (
    <div className="mt-5">
      <h3 className="text-lg">{t`Question bank`}</h3>
      <div className="mt-1 flex flex-wrap items-end gap-3">
        <Labelled label={t`Topic`}>
          <select
            className={fieldClass}
            value={topic}
            onChange={(event) => setTopic(event.target.value)}
          >
            <option value="">{t`all`}</option>
            {topics.map((one) => (
              <option key={one.key} value={one.key}>
                {one.title}
              </option>
            ))}
          </select>
        </Labelled>
        <Labelled label={t`Search`}>
          <Input type="search" value={words} onChange={(event) => setWords(event.target.value)} />
        </Labelled>
        {!takenSays && (
          <Button
            disabled={ticked.length < 2}
            onClick={() => {
              onAdd(ticked, Math.max(1, Math.floor(ticked.length / 2)))
              setTicked([])
            }}
          >
            {ticked.length < 2
              ? t`Draw at random from the ticked questions`
              : t`Draw at random from these ${ticked.length}`}
          </Button>
        )}
      </div>
      {found && (
        <>
          <p className="mt-2 text-sm text-ink-2">
            {capital(counted(found.total, 'question'))}
            {found.total > found.families.length && t`, the first ${found.families.length} shown`}
            {t`, essential questions first.`}
          </p>
          <ul className="mt-1 max-h-96 overflow-y-auto" tabIndex={-1}>
            {found.families.map((family) => (
              <li
                key={family.key}
                className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-line py-1.5"
              >
                {!takenSays && (
                  <Check
                    label={t`Draw at random from ${family.title}`}
                    on={ticked.some((one) => one.key === family.key)}
                    set={(on) => tick(family, on)}
                  />
                )}
                <button
                  type="button"
                  className="min-w-0 flex-1 basis-48 text-left text-gust hover:underline"
                  onClick={() => setSeen(family)}
                >
                  {family.title}
                </button>
                <span className="text-sm text-ink-2">
                  {t`${family.kinds.join(', ')}; about ${duration(family.seconds)}`}
                  {family.essential && t`; essential`}
                  {family.versions === 1 && t`; one version`}
                  {family.own && t`; your group’s own`}
                </span>
                <Button disabled={taken.has(family.key)} onClick={() => onAdd([family], 1)}>
                  {taken.has(family.key) ? (takenSays ?? t`In the test`) : t`Add`}
                </Button>
              </li>
            ))}
          </ul>
        </>
      )}
      {seen && <FamilyPreview course={course} family={seen} onClose={() => setSeen(null)} />}
    </div>
  )
}
