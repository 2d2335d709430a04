import { t } from '@lingui/core/macro'
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { Button } from '../../../ui/Button'
import { Problem, TextField } from '../../../ui/Field'
import { TextLink } from '../../../ui/TextLink'
import { useTitle } from '../../../ui/useTitle'
import { Pick } from '../../composing/Pick'
import { STARTS } from '../family/kinds'
import { beginFamily } from '../family/queries'
import { usePlace } from '../place'

const FIRST = 6

/** A new question: its title, its topic, and what learners give as the answer. */
export default function NewQuestion() {
  const { at, label } = usePlace()
  useTitle(t`New question`)
  return (
    <main id="main" className="max-w-3xl px-5 py-8 @5xl:px-8">
      <p>
        <TextLink to={at}>{label}</TextLink>
      </p>
      <h1 className="text-3xl">{t`New question`}</h1>
      <Form />
    </main>
  )
}

function Form() {
  const { course, topics, at, group } = usePlace()
  const [title, setTitle] = useState('')
  const [topic, setTopic] = useState(topics[0]?.key ?? '')
  const [start, setStart] = useState('number')
  const [all, setAll] = useState(false)
  const navigate = useNavigate()
  const begin = useMutation({
    mutationFn: () => beginFamily(course, { topic, title, start, group }),
    onSuccess: ({ key }) => navigate(`${at}/${key}`),
  })
  const kinds = Object.entries(STARTS).slice(0, all ? undefined : FIRST)
  return (
    <form
      className="mt-5 grid gap-5"
      onSubmit={(event) => {
        event.preventDefault()
        begin.mutate()
      }}
    >
      <TextField
        label={t`Title, for lists`}
        value={title}
        minLength={3}
        maxLength={60}
        required
        onText={setTitle}
      />
      <Pick
        label={t`Topic`}
        options={topics.map((one) => [one.key, one.title])}
        value={topic}
        onChange={setTopic}
      />
      <fieldset>
        <legend className="font-semibold">{t`What learners give as the answer`}</legend>
        <div className="mt-2 grid gap-x-6 gap-y-1 @lg:grid-cols-2">
          {kinds.map(([key, words]) => (
            <label key={key} className="flex min-h-9 items-center gap-3">
              <input
                type="radio"
                name="start"
                className="size-5 shrink-0 accent-gust"
                checked={start === key}
                onChange={() => setStart(key)}
              />
              {words}
            </label>
          ))}
        </div>
        {!all && (
          <Button kind="quiet" className="-ml-2" onClick={() => setAll(true)}>
            {t`Show all kinds`}
          </Button>
        )}
      </fieldset>
      <p>
        <Button
          type="submit"
          kind="strong"
          disabled={begin.isPending || topic === ''}
        >{t`Start writing`}</Button>
      </p>
      <Problem error={begin.error} />
    </form>
  )
}
