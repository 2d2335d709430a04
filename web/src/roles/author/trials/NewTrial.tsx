import { t } from '@lingui/core/macro'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate, useParams, useSearchParams } from 'react-router'
import { Button } from '../../../ui/Button'
import { Labelled, Problem, TextArea, TextField } from '../../../ui/Field'
import { Loaded } from '../../../ui/states'
import { TextLink } from '../../../ui/TextLink'
import { useTitle } from '../../../ui/useTitle'
import { Pick } from '../../composing/Pick'
import { keys } from '../keys'
import { type About, startTrial, textsQuery } from './queries'

type Text = { place: string; name: string; text: string }

/** A second version of a text, to be given to half of the learners. */
export default function NewTrial() {
  const { course = '' } = useParams()
  const [params] = useSearchParams()
  const about = Object.fromEntries(params) as About
  const query = useQuery(textsQuery(course, about))
  useTitle(t`Compare two texts`)
  return (
    <Loaded query={query} what={t`the texts`}>
      {({ of, texts, running }) => (
        <main id="main" className="max-w-4xl px-5 py-6 @5xl:px-8">
          <p>
            <TextLink to={`/author/course/${course}/trials`}>{t`Trials`}</TextLink>
          </p>
          <h1 className="text-3xl">{t`Compare two texts: ${of.title}`}</h1>
          {running && <p className="mt-3">{t`A trial of it is going on. End that one first.`}</p>}
          {!running && texts.length === 0 && (
            <p className="mt-3">{t`It has no hint, no feedback and no worked solution yet.`}</p>
          )}
          {!running && texts.length > 0 && <Form course={course} about={about} texts={texts} />}
        </main>
      )}
    </Loaded>
  )
}

function Form({ course, about, texts }: { course: string; about: About; texts: Text[] }) {
  const cache = useQueryClient()
  const navigate = useNavigate()
  const [place, setPlace] = useState(texts[0]?.place ?? '')
  const chosen = texts.find((one) => one.place === place)
  const [written, setWritten] = useState<Record<string, string>>({})
  const [weeks, setWeeks] = useState(12)
  const first = chosen?.text ?? ''
  const second = written[place] ?? first
  const start = useMutation({
    mutationFn: () =>
      startTrial(course, {
        family: '',
        topic: '',
        section: '',
        ...about,
        place,
        first,
        second,
        weeks,
      }),
    onSuccess: (next) => {
      cache.setQueryData(keys.trials(course), next)
      navigate(`/author/course/${course}/trials`)
    },
  })
  return (
    <form
      className="mt-4 grid gap-5"
      onSubmit={(event) => {
        event.preventDefault()
        start.mutate()
      }}
    >
      <p className="text-ink-2">{t`From now on half of the learners get the second text. Tests always show the first. Both must be good enough to show.`}</p>
      {texts.length > 1 && (
        <Pick
          label={t`Which text`}
          options={texts.map((one) => [one.place, one.name])}
          value={place}
          onChange={setPlace}
        />
      )}
      <div>
        <h2 className="text-sm text-ink-2">{t`First text, as it is now`}</h2>
        <p className="mt-1 rounded-lg bg-sheet px-3 py-2 whitespace-pre-wrap">{first}</p>
      </div>
      <Labelled label={t`Second text`}>
        <TextArea
          rows={Math.min(16, second.split('\n').length + 2)}
          required
          minLength={3}
          maxLength={20_000}
          value={second}
          onChange={({ target }) => setWritten({ ...written, [place]: target.value })}
        />
      </Labelled>
      <TextField
        label={t`It ends after so many weeks, if nothing is decided before`}
        type="number"
        min={1}
        max={52}
        required
        fieldWidth="w-24"
        value={weeks}
        onText={(text) => setWeeks(Number(text))}
      />
      <p>
        <Button
          type="submit"
          kind="strong"
          disabled={start.isPending || second.trim() === first.trim()}
        >{t`Start the trial`}</Button>
      </p>
      <Problem error={start.error} />
    </form>
  )
}
