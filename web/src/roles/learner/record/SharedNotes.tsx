import { t } from '@lingui/core/macro'
import { useQuery } from '@tanstack/react-query'
import { useCourse } from '../../../account/course'
import { api, call } from '../../../api/client'
import { keys } from '../../../api/keys'
import { moment } from '../../../ui/words'

/** What tutors wrote to the learner. */
export function SharedNotes() {
  const course = useCourse()
  const notes = useQuery({
    queryKey: keys.ownNotes(course),
    queryFn: () => call(api.GET('/api/courses/{course}/notes', { params: { path: { course } } })),
  }).data?.notes
  if (!notes || notes.length === 0) return null
  return (
    <section aria-labelledby="from-tutor" className="mt-8 max-w-3xl">
      <h2 id="from-tutor" className="text-xl">{t`Notes from your tutor`}</h2>
      <ul className="mt-1">
        {notes.map((note) => (
          <li key={note.id} className="border-b border-line py-2">
            <p className="whitespace-pre-wrap">{note.text}</p>
            <p className="text-sm text-ink-2">
              {note.by}, {moment(note.at)}
            </p>
          </li>
        ))}
      </ul>
    </section>
  )
}
