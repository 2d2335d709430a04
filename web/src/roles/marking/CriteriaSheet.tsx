import { t } from '@lingui/core/macro'
import { useQueryClient } from '@tanstack/react-query'
import { X } from 'lucide-react'
import { ChangedNote } from '../../account/ChangedNote'
import { useEdit } from '../../account/useEdit'
import type { Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { Button } from '../../ui/Button'
import { fieldClass, Input, Problem } from '../../ui/Field'
import { IconButton } from '../../ui/IconButton'
import { KeptNote } from '../../ui/KeptNote'
import { Sheet } from '../../ui/Sheet'
import { type Part, setCriteria } from './queries'

interface Props {
  group: number
  assignment: number
  question: Schemas['QuestionToMarkOut']
  part: Part
  onClose: () => void
}

/** Criteria of one's own for a part, in the place of its author's. */
export function CriteriaSheet({ group, assignment, question, part, onClose }: Props) {
  const cache = useQueryClient()
  const own = question.own_criteria.includes(part.part)
  const edit = useEdit({
    place: `criteria:${assignment}:${question.family}:${part.part}`,
    opened: { criteria: part.criteria.length > 0 ? part.criteria : [{ says: '', points: 1 }] },
    version: question.criteria_versions[part.part] ?? '',
    save: (form, version) =>
      setCriteria(group, assignment, question.family, part.part, { ...form, version }),
    stands: () => null,
    onSaved: () => {
      void cache.invalidateQueries({ queryKey: keys.markingOf(group, assignment) })
      onClose()
    },
  })
  const { criteria } = edit.form
  const setAll = (next: Part['criteria']) => edit.set({ criteria: next })
  const change = (n: number, next: Partial<Part['criteria'][number]>) =>
    setAll(criteria.map((one, i) => (i === n ? { ...one, ...next } : one)))
  return (
    <Sheet open onOpenChange={onClose} title={`Criteria${part.label ? `: ${part.label}` : ''}`}>
      <p className="mt-2 text-ink-2">
        {own
          ? t`Your own criteria, instead of the author’s.`
          : t`The author’s criteria. You can change them until the first answer is marked.`}
      </p>
      <ul className="mt-3 grid gap-2">
        {criteria.map((one, n) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: criteria have no identity but their place
          <li key={n} className="flex items-center gap-2">
            <Input
              aria-label={t`Criterion ${n + 1}`}
              className="min-w-0 flex-1"
              maxLength={200}
              value={one.says}
              onChange={(event) => change(n, { says: event.target.value })}
            />
            <input
              type="number"
              aria-label={t`Points of criterion ${n + 1}`}
              className={`${fieldClass} w-20`}
              min={1}
              max={20}
              value={one.points}
              onChange={(event) => change(n, { points: Number(event.target.value) || 1 })}
            />
            <IconButton
              icon={X}
              label={t`Remove criterion ${n + 1}`}
              act={() => setAll(criteria.filter((_, i) => i !== n))}
            />
          </li>
        ))}
      </ul>
      <Button
        kind="quiet"
        className="mt-2 -ml-2"
        disabled={criteria.length >= 12}
        onClick={() => setAll([...criteria, { says: '', points: 1 }])}
      >{t`Add a criterion`}</Button>
      <KeptNote restored={edit.restored} onDiscard={edit.discard} />
      <ChangedNote
        conflict={edit.conflict}
        label={() => t`Criteria`}
        words={(_, value) =>
          (value as Part['criteria'] | undefined)
            ?.map((one) => `${one.says} (${one.points})`)
            .join(', ') || t`the author’s`
        }
      />
      <Problem error={edit.error} />
      <div className="mt-4 flex flex-wrap gap-2">
        <Button
          kind="strong"
          disabled={
            edit.isPending || criteria.length === 0 || criteria.some((one) => !one.says.trim())
          }
          onClick={() => edit.save()}
        >{t`Use these criteria`}</Button>
        {own && (
          <Button
            kind="quiet"
            disabled={edit.isPending}
            onClick={() => edit.save({ criteria: [] })}
          >{t`Restore the author’s criteria`}</Button>
        )}
      </div>
    </Sheet>
  )
}
