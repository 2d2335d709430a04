import { t } from '@lingui/core/macro'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, call, type Schemas } from '../../../api/client'
import { Button, buttonClass } from '../../../ui/Button'
import { Problem } from '../../../ui/Field'
import { Sheet } from '../../../ui/Sheet'
import { capital, counted } from '../../../ui/words'
import { Pick } from '../../composing/Pick'
import { HARD } from '../family/kinds'
import { keys } from '../keys'
import { WhyField } from '../WhyField'

type Do = Schemas['BulkIn']['do']
const DOINGS: [Do, string][] = [
  ['essential', t`Make them essential`],
  ['not_essential', t`Make them not essential`],
  ['difficulty', t`Set how hard they are`],
  ['topic', t`Move them to a topic`],
  ['retire', t`Stop asking them`],
]

const MOST = 50

interface Props {
  course: string
  chosen: string[]
  topics: { key: string; title: string }[]
  onDone: () => void
}

/** What can be done with all chosen questions at once. */
export function Bulk({ course, chosen, topics, onDone }: Props) {
  const [open, setOpen] = useState(false)
  const many = counted(chosen.length, 'question')
  const query = chosen.map((key) => `families=${encodeURIComponent(key)}`).join('&')
  return (
    <div className="mt-4 flex flex-wrap items-center gap-3 rounded-box bg-sheet px-4 py-2.5">
      <span role="status">{t`${capital(many)} chosen`}</span>
      {chosen.length > MOST ? (
        <span>{t`Choose at most ${MOST} at a time.`}</span>
      ) : (
        <>
          <Button onClick={() => setOpen(true)}>{t`Change them`}</Button>
          <a
            href={`/api/courses/${course}/authoring/bank/files?${query}`}
            className={buttonClass('quiet')}
          >{t`Save their files`}</a>
        </>
      )}
      <Button kind="quiet" onClick={onDone}>{t`Choose none`}</Button>
      {open && (
        <ChangeSheet
          {...{ course, chosen, topics }}
          onClose={(done) => {
            setOpen(false)
            if (done) onDone()
          }}
        />
      )}
    </div>
  )
}

function ChangeSheet({
  course,
  chosen,
  topics,
  onClose,
}: Omit<Props, 'onDone'> & { onClose: (done: boolean) => void }) {
  const cache = useQueryClient()
  const [doing, setDoing] = useState<Do>('essential')
  const [difficulty, setDifficulty] = useState('3')
  const [topic, setTopic] = useState(topics[0]?.key ?? '')
  const [why, setWhy] = useState('')
  const change = useMutation({
    mutationFn: () =>
      call(
        api.POST('/api/courses/{course}/authoring/bank/change', {
          params: { path: { course } },
          body: { families: chosen, do: doing, why, difficulty: Number(difficulty), topic },
        }),
      ),
    onSuccess: () => cache.invalidateQueries({ queryKey: keys.bank(course) }),
  })
  const done = change.data
  return (
    <Sheet
      open
      onOpenChange={() => onClose(done !== undefined)}
      title={t`Change ${counted(chosen.length, 'question')}`}
    >
      {done ? (
        <div role="status" className="mt-4 grid gap-3">
          <p>{t`Changed: ${counted(done.changed.length, 'question')}.`}</p>
          {done.left.length > 0 && (
            <>
              <p className="font-semibold">{t`These stay as they were:`}</p>
              <ul className="list-disc pl-5">
                {done.left.map((one) => (
                  <li key={one.key}>{`${one.title}: ${one.why}`}</li>
                ))}
              </ul>
            </>
          )}
          <p>
            <Button kind="strong" onClick={() => onClose(true)}>{t`Close`}</Button>
          </p>
        </div>
      ) : (
        <form
          className="mt-4 grid gap-4"
          onSubmit={(event) => {
            event.preventDefault()
            change.mutate()
          }}
        >
          <Pick
            label={t`What to change`}
            options={DOINGS}
            value={doing}
            onChange={(next) => setDoing(next as Do)}
          />
          {doing === 'difficulty' && (
            <Pick
              label={t`How hard they are`}
              options={HARD.map((says, place) => [String(place + 1), says])}
              value={difficulty}
              onChange={setDifficulty}
            />
          )}
          {doing === 'topic' && (
            <Pick
              label={t`Topic`}
              options={topics.map((one) => [one.key, one.title])}
              value={topic}
              onChange={setTopic}
            />
          )}
          <p className="text-ink-2">
            {doing === 'retire'
              ? t`Nobody gets them from now on. Marks that were given stay.`
              : t`They are published at once. Answers given so far keep counting.`}
          </p>
          <WhyField value={why} onText={setWhy} />
          <p>
            <Button
              type="submit"
              kind="strong"
              disabled={change.isPending}
            >{t`Change them`}</Button>
          </p>
          <Problem error={change.error} />
        </form>
      )}
    </Sheet>
  )
}
