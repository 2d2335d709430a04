import { t } from '@lingui/core/macro'
import { useState } from 'react'
import type { Schemas } from '../../api/client'
import { Button } from '../../ui/Button'
import { TextField } from '../../ui/Field'
import { counted } from '../../ui/words'
import { Pick } from '../composing/Pick'
import type { Queue } from './queries'

interface Props {
  queue: Queue
  busy: boolean
  onSecond: (person: number | null, sample: number | null) => void
  onAdjust: (body: Schemas['AdjustIn']) => void
}

const SAMPLES = [5, 10, 20]

/** A second marker for all or for a sample, and a marker's points adjusted. */
export function Moderation({ queue, busy, onSecond, onAdjust }: Props) {
  const { second, sample, tutors } = queue
  const people = [...(second ? [second] : []), ...tutors.filter((one) => one.id !== second?.id)]
  const there = queue.attempts.filter((one) => one.parts > 0).length
  const sizes = [...new Set([...SAMPLES, sample ?? 0])].filter((n) => n > 0 && n <= there)
  return (
    <>
      <div className="mt-5 flex flex-wrap gap-4">
        <Pick
          label={t`A second marker`}
          options={[
            ['', t`nobody`],
            ...people.map((one): [string, string] => [String(one.id), one.name]),
          ]}
          value={String(second?.id ?? '')}
          onChange={(text) => !busy && onSecond(text ? Number(text) : null, text ? sample : null)}
        />
        {second && (
          <Pick
            label={t`marks`}
            options={[
              ['', t`every attempt`],
              ...sizes
                .sort((one, other) => one - other)
                .map((n): [string, string] => [String(n), t`a sample of ${n}`]),
            ]}
            value={String(sample ?? '')}
            onChange={(text) => !busy && onSecond(second.id, text ? Number(text) : null)}
          />
        )}
      </div>
      <p className="mt-1 max-w-md text-ink-2 text-sm">{t`They mark the same answers without seeing the first marks. Where you differ, you agree on a mark before it is released. A sample goes from the lowest to the highest marks.`}</p>
      {queue.markers.length > 0 && <Adjust queue={queue} busy={busy} onAdjust={onAdjust} />}
    </>
  )
}

function Adjust({ queue, busy, onAdjust }: Pick<Props, 'queue' | 'busy' | 'onAdjust'>) {
  const [marker, setMarker] = useState(String(queue.markers[0]?.id ?? ''))
  const [points, setPoints] = useState('')
  const [why, setWhy] = useState('')
  const one = queue.markers.find((each) => String(each.id) === marker)
  const above = one?.above ?? null
  const away = above === null ? '' : Math.abs(above).toFixed(1)
  return (
    <details className="mt-4">
      <summary className="cursor-pointer text-gust">{t`Adjust a marker’s points`}</summary>
      <form
        className="mt-2 grid max-w-md gap-3"
        onSubmit={(event) => {
          event.preventDefault()
          onAdjust({
            marker: Number(marker),
            points: points.replace(',', '.').trim(),
            why: why.trim(),
          })
          setPoints('')
        }}
      >
        <div className="flex flex-wrap gap-4">
          <Pick
            label={t`Marker`}
            options={queue.markers.map((each): [string, string] => [String(each.id), each.name])}
            value={marker}
            onChange={setMarker}
          />
          <TextField
            label={t`Points added to each answer`}
            value={points}
            onText={setPoints}
            required
            placeholder="+0.5"
            fieldWidth="w-24"
          />
        </div>
        {one && (
          <p className="text-ink-2">
            {t`This changes ${counted(one.answers, 'answer')}.`}
            {above !== null &&
              above !== 0 &&
              (above > 0
                ? t` Where both marked, ${one.name} gave ${away} more than the other.`
                : t` Where both marked, ${one.name} gave ${away} less than the other.`)}
          </p>
        )}
        <TextField
          label={t`Reason`}
          value={why}
          onText={setWhy}
          required
          minLength={3}
          maxLength={200}
        />
        <p className="text-ink-2 text-sm">{t`What was given before stays in the history, with your name and reason. Marks that are out change when you release them again.`}</p>
        <Button
          type="submit"
          className="justify-self-start"
          disabled={busy}
        >{t`Adjust the points`}</Button>
      </form>
    </details>
  )
}
