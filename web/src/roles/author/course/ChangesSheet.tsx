import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import type { ReactNode } from 'react'
import { Button } from '../../../ui/Button'
import { Problem } from '../../../ui/Field'
import { Sheet } from '../../../ui/Sheet'
import { Loading } from '../../../ui/states'
import { changesQuery, type Shape } from './queries'

interface Props {
  course: string
  wanted: Shape & { version: string }
  saving: boolean
  onClose: () => void
  onSave: () => void
  children: ReactNode
}

/** What saving a structure changes and means, said before it is done. */
export function ChangesSheet({ course, wanted, saving, onClose, onSave, children }: Props) {
  const { data, error } = useQuery(changesQuery(course, wanted))
  return (
    <Sheet open onOpenChange={onClose} title={t`Save these changes`}>
      {!data && !error && <Loading what={t`the changes`} />}
      <Problem error={error} />
      {data && (
        <div className="mt-4 grid gap-5">
          <Lines title={t`What changes`} lines={data.changes} none={t`Nothing.`} />
          <Lines
            title={t`What it means for learners`}
            lines={data.means}
            none={t`Nothing: no level and no plan depends on it.`}
          />
          <p>
            <Button kind="strong" disabled={saving} onClick={onSave}>{t`Save`}</Button>
          </p>
        </div>
      )}
      {children}
    </Sheet>
  )
}

export function Lines({ title, lines, none }: { title: string; lines: string[]; none: string }) {
  return (
    <section>
      <h3 className="text-lg">{title}</h3>
      {lines.length === 0 && <p className="text-ink-2">{none}</p>}
      <ul className="mt-1 list-disc pl-5">
        {lines.map((says) => (
          <li key={says}>{says}</li>
        ))}
      </ul>
    </section>
  )
}
