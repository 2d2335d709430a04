import { t } from '@lingui/core/macro'
import { Link } from 'react-router'
import { useTo } from '../account/course'
import type { Run, Schemas } from '../api/client'
import { buttonClass } from '../ui/Button'
import { Block } from './Block'

/** Ideas that count, and how far each is covered. */
export function Ideas({ ideas }: { ideas: Schemas['IdeaOut'][] }) {
  const covered = ideas.filter((idea) => idea.right >= idea.wanted).length
  return (
    <Block title={t`Ideas covered: ${covered} of ${ideas.length}`}>
      <ul className="mt-1 text-sm">
        {ideas.map((idea) => (
          <li key={idea.key} className="flex justify-between gap-3 py-0.5">
            <span className={idea.right >= idea.wanted ? 'text-ink-2' : ''}>{idea.title}</span>
            <span className="whitespace-nowrap tabular-nums">
              {t`${idea.right} of ${idea.wanted}`}
            </span>
          </li>
        ))}
      </ul>
    </Block>
  )
}

/** How much is left to the goal; after it practice goes on. */
export function GoalBlock({ run }: { run: Run }) {
  const to = useTo()
  if (!run.goal) return null
  return (
    <Block title={run.goal.reached ? t`Goal reached` : t`Goal`}>
      <p className="mt-1">{run.goal.says}</p>
      {run.goal.reached && (
        <p className="mt-1 text-sm text-ink-2">{t`You can go on. Your result stays.`}</p>
      )}
      {run.spell !== null && (
        <Link
          to={to(`/spell/${run.spell}`)}
          className={`${buttonClass(run.goal.reached ? 'strong' : 'plain')} mt-2`}
        >
          {run.goal.reached ? t`Next task` : t`Your time`}
        </Link>
      )}
    </Block>
  )
}
