import { t } from '@lingui/core/macro'
import { useState } from 'react'
import { useStart } from '../../../activities/requests'
import type { Schemas } from '../../../api/client'
import { Button } from '../../../ui/Button'
import { Check } from '../../../ui/Check'
import { Problem } from '../../../ui/Field'

/** The ideas that cover a topic; chosen ones can be practised until each is right twice. */
export function Ideas({ topic, ideas }: { topic: string; ideas: Schemas['IdeaOut'][] }) {
  const [chosen, setChosen] = useState<string[]>([])
  const start = useStart()
  if (ideas.length === 0) return null
  return (
    <section className="mt-8 max-w-2xl">
      <h2 className="text-xl">{t`Ideas in this topic`}</h2>
      <p className="text-ink-2">{t`Get each one right first time, twice, with different numbers. Choose some to practise only those.`}</p>
      <ul className="mt-1">
        {ideas.map((idea) => (
          <li key={idea.key} className="border-b border-line">
            <Check
              on={chosen.includes(idea.key)}
              set={(on) =>
                setChosen(on ? [...chosen, idea.key] : chosen.filter((one) => one !== idea.key))
              }
            >
              <span className="flex-1">
                {idea.title}
                {idea.missed && <span className="text-sm text-part"> {t`to correct`}</span>}
              </span>
              <span className="text-ink-2 tabular-nums">{t`${idea.right} of ${idea.wanted}`}</span>
            </Check>
          </li>
        ))}
      </ul>
      <Button
        className="mt-3"
        disabled={chosen.length === 0 || start.isPending}
        onClick={() =>
          start.mutate({
            purpose: 'practice',
            topics: [topic],
            goal: { kind: 'ideas', families: chosen },
          })
        }
      >{t`Practise only these`}</Button>
      <Problem error={start.error} />
    </section>
  )
}
