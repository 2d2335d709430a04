import { t } from '@lingui/core/macro'
import type { Schemas } from '../../api/client'
import { TextLink } from '../../ui/TextLink'
import { moment } from '../../ui/words'

const PRESSING = ['late', 'not_begun', 'under_way']

/** What was set for a learner, where it stands and what came of it. */
export function SetWork({ work }: { work: Schemas['SetLineOut'][] }) {
  if (work.length === 0) return null
  return (
    <section>
      <h2 className="text-xl">{t`Set work`}</h2>
      <ul className="mt-1">
        {work.map((one) => (
          <li key={`${one.title} ${one.due}`} className="border-b border-line py-2">
            <span className="flex flex-wrap justify-between gap-x-4">
              <strong>{one.at ? <TextLink to={one.at}>{one.title}</TextLink> : one.title}</strong>
              <span className={PRESSING.includes(one.state) ? 'text-part' : 'text-ink-2'}>
                {one.says}
              </span>
            </span>
            <span className="block text-ink-2">
              {[one.result, one.due && t`due ${moment(one.due)}`].filter(Boolean).join(', ')}
            </span>
          </li>
        ))}
      </ul>
    </section>
  )
}
