import { t } from '@lingui/core/macro'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useKept } from '../../../account/useKept'
import { api, call, type Schemas } from '../../../api/client'
import { keys } from '../../../api/keys'
import { Button } from '../../../ui/Button'
import { Check } from '../../../ui/Check'
import { Labelled, Problem, TextArea } from '../../../ui/Field'
import { moment } from '../../../ui/words'

const NOTES = '/api/learners/{enrolment_id}/notes' as const
type Page = Schemas['NotesOut']

/** Notes on a learner, for the tutors of their groups; shared ones the learner reads too. */
export function Notes({ learner }: { learner: number }) {
  const { value: text, set: setText, saved } = useKept(`note:${learner}`, () => '')
  const [shared, setShared] = useState(false)
  const cache = useQueryClient()
  const path = { enrolment_id: learner }
  const query = useQuery({
    queryKey: keys.learnerNotes(learner),
    queryFn: () => call(api.GET(NOTES, { params: { path } })),
  })
  const change = useMutation({
    mutationFn: (act: () => Promise<Page>) => act(),
    onSuccess: (next) => cache.setQueryData(keys.learnerNotes(learner), next),
  })
  const add = () =>
    change.mutate(async () => {
      const next = await call(api.POST(NOTES, { params: { path }, body: { text, shared } }))
      saved('')
      setShared(false)
      return next
    })
  return (
    <section aria-labelledby="notes">
      <h2 id="notes" className="text-xl">{t`Notes`}</h2>
      <ul className="mt-1">
        {query.data?.notes.map((note) => (
          <li key={note.id} className="border-b border-line py-2">
            <p className="whitespace-pre-wrap">{note.text}</p>
            <p className="flex flex-wrap items-center gap-x-3 text-sm text-ink-2">
              {note.own ? t`You` : note.by}, {moment(note.at)}
              {note.shared && t`, shared with the learner`}
              {note.own && (
                <Button
                  kind="quiet"
                  className="text-sm"
                  aria-label={t`Remove the note of ${moment(note.at)}`}
                  onClick={() =>
                    change.mutate(() =>
                      call(
                        api.DELETE(`${NOTES}/{note_id}`, {
                          params: { path: { ...path, note_id: note.id } },
                        }),
                      ),
                    )
                  }
                >{t`Remove`}</Button>
              )}
            </p>
          </li>
        ))}
      </ul>
      <Labelled label={t`Note (the group’s tutors can read it)`} className="mt-2">
        <TextArea
          rows={2}
          maxLength={4000}
          disabled={change.isPending}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      </Labelled>
      <div className="mt-1 flex flex-wrap items-center gap-x-4">
        <Check on={shared} set={setShared}>{t`share it with the learner`}</Check>
        <Button disabled={!text.trim() || change.isPending} onClick={add}>{t`Save note`}</Button>
      </div>
      <Problem error={change.error} />
    </section>
  )
}
