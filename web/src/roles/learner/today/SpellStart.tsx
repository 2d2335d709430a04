import { t } from '@lingui/core/macro'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { useCourse, useTo } from '../../../account/course'
import { keys } from '../../../api/keys'
import { Button } from '../../../ui/Button'
import { Problem } from '../../../ui/Field'
import { Sheet } from '../../../ui/Sheet'
import { Loaded } from '../../../ui/states'
import { counted } from '../../../ui/words'
import { spellPlanQuery, startSpell } from '../queries'

const MINUTES = [10, 20, 30, 45]

/** "I have 20 minutes": what they would be filled with; only the button in it begins anything. */
export default function SpellStart({ onClose }: { onClose: () => void }) {
  const [minutes, setMinutes] = useState(20)
  const course = useCourse()
  const cache = useQueryClient()
  const navigate = useNavigate()
  const to = useTo()
  const query = useQuery(spellPlanQuery(course, minutes))
  const start = useMutation({
    mutationFn: () => startSpell(course, minutes),
    onSuccess: (spell) => {
      cache.setQueryData(keys.spell(course, spell.id), spell)
      void cache.invalidateQueries({ queryKey: keys.course(course) })
      const run = spell.current === null ? null : spell.pieces[spell.current]?.run
      navigate(to(run ? `/run/${run}` : `/spell/${spell.id}`))
    },
  })
  return (
    <Sheet open onOpenChange={onClose} title={t`I have ${minutes} minutes`}>
      <fieldset className="mt-4">
        <legend className="text-sm text-ink-2">{t`How long`}</legend>
        <div className="mt-1 flex flex-wrap gap-2">
          {MINUTES.map((one) => (
            <label
              key={one}
              className={`cursor-pointer rounded-lg border px-4 py-2 has-focus-visible:outline-2 has-focus-visible:outline-offset-2 ${
                one === minutes ? 'border-deep bg-deep text-on-deep' : 'border-edge'
              }`}
            >
              <input
                type="radio"
                name="minutes"
                className="sr-only"
                checked={one === minutes}
                onChange={() => setMinutes(one)}
              />
              {t`${one} min`}
            </label>
          ))}
        </div>
      </fieldset>
      <Loaded query={query} what={t`what to do`}>
        {(plan) => (
          <>
            <p className="mt-4 text-ink-2">{plan.says}</p>
            <ol className="mt-3">
              {plan.pieces.map((piece) => (
                <li
                  key={piece.kind + piece.title + piece.why}
                  className="grid grid-cols-[3.75rem_minmax(0,1fr)] gap-x-4 border-b border-line py-3"
                >
                  <span className="text-ink-2 tabular-nums">{t`${piece.minutes} min`}</span>
                  <span>
                    <span className="font-semibold">{piece.title}</span>
                    {piece.questions > 1 && (
                      <span className="text-ink-2">, {counted(piece.questions, 'question')}</span>
                    )}
                    <span className="block text-ink-2">{piece.why}</span>
                  </span>
                </li>
              ))}
            </ol>
            {plan.pieces.length > 0 && (
              <Button
                kind="strong"
                className="mt-5"
                disabled={start.isPending}
                onClick={() => start.mutate()}
              >{t`Start, about ${plan.filled} min`}</Button>
            )}
            <Problem error={start.error} />
          </>
        )}
      </Loaded>
    </Sheet>
  )
}
