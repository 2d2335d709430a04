import { t } from '@lingui/core/macro'
import { useMutation } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { Button } from '../../../ui/Button'
import { Input, Labelled, Problem, TextField } from '../../../ui/Field'
import { MoveButtons } from '../../../ui/MoveButtons'
import { Pick } from '../../composing/Pick'
import { addPageFile, type Resource } from './queries'
import { moved, put } from './shape'

interface Props {
  course: string
  topic: string
  section: string
  /** Those of the whole page. */
  resources: Resource[]
  onChange: (resources: Resource[]) => void
}

/** Films, files and links beside a section, in their order. */
export function ResourcesField({ course, topic, section, resources, onChange }: Props) {
  const own = resources.filter((one) => one.section === section)
  const placeOf = (one: Resource) => resources.indexOf(one)
  const kinds = { video: t`film`, file: t`file`, link: t`link` }
  return (
    <div className="grid gap-2">
      {own.length > 0 && (
        <ul aria-label={t`Films, files and links`} className="grid gap-2">
          {own.map((one, place) => (
            <li key={one.key || `${one.file}${one.url}`} className="flex flex-wrap items-end gap-2">
              <TextField
                label={t`Title of the ${kinds[one.kind]}`}
                value={one.title}
                maxLength={120}
                className="min-w-40 grow"
                fieldWidth="w-full"
                onText={(title) => onChange(put(resources, placeOf(one), { ...one, title }))}
              />
              <TextField
                label={t`Minutes`}
                type="number"
                min={1}
                max={120}
                fieldWidth="w-20"
                value={one.minutes}
                onText={(text) =>
                  onChange(put(resources, placeOf(one), { ...one, minutes: Number(text) }))
                }
              />
              <MoveButtons
                name={one.title}
                place={place}
                many={own.length}
                onMove={(to) =>
                  onChange(moved(resources, placeOf(one), placeOf(own[to] as Resource)))
                }
                onRemove={() => onChange(put(resources, placeOf(one)))}
              />
              <span className="w-full text-sm break-all text-ink-2">
                {[one.file, one.captions, one.url].filter(Boolean).join(', ')}
              </span>
            </li>
          ))}
        </ul>
      )}
      <details>
        <summary className="cursor-pointer text-gust">{t`Add a film, file or link`}</summary>
        {section ? (
          <NewResource
            course={course}
            topic={topic}
            section={section}
            onAdd={(one) => onChange([...resources, one])}
          />
        ) : (
          <p className="text-ink-2">{t`Publish the new section first.`}</p>
        )}
      </details>
    </div>
  )
}

const TAKES = { video: '.webm,.mp4', file: '.pdf,.txt,.csv,.png', link: '' }

function NewResource({
  course,
  topic,
  section,
  onAdd,
}: {
  course: string
  topic: string
  section: string
  onAdd: (one: Resource) => void
}) {
  const [kind, setKind] = useState<Resource['kind']>('video')
  const [title, setTitle] = useState('')
  const [minutes, setMinutes] = useState('2')
  const add = useMutation({
    mutationFn: async (form: FormData) => {
      const kept = async (name: string) => {
        const file = form.get(name)
        return file instanceof File && file.size > 0 ? addPageFile(course, topic, file) : ''
      }
      const url = String(form.get('url') ?? '').trim()
      const one = { key: '', title: title.trim(), kind, section, minutes: Number(minutes), url }
      return { ...one, file: await kept('file'), captions: await kept('captions') }
    },
    onSuccess: (one) => {
      onAdd(one)
      setTitle('')
    },
  })
  const send = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault()
    add.mutate(new FormData(event.currentTarget))
  }
  return (
    <form className="mt-2 grid gap-2" onSubmit={send}>
      <Pick
        label={t`What it is`}
        options={[
          ['video', t`A film with captions`],
          ['file', t`A file to save`],
          ['link', t`A link to another website`],
        ]}
        value={kind}
        onChange={(next) => setKind(next as Resource['kind'])}
      />
      <div className="flex flex-wrap gap-2">
        <TextField
          label={t`Title for learners`}
          value={title}
          maxLength={120}
          required
          className="min-w-40 grow"
          fieldWidth="w-full"
          onText={setTitle}
        />
        <TextField
          label={t`Minutes it takes`}
          type="number"
          min={1}
          max={120}
          required
          fieldWidth="w-20"
          value={minutes}
          onText={setMinutes}
        />
      </div>
      {kind === 'link' ? (
        <Labelled label={t`Address`}>
          <Input
            name="url"
            type="url"
            required
            pattern="https://.*"
            maxLength={300}
            placeholder="https://"
            className="w-full"
          />
        </Labelled>
      ) : (
        <Labelled
          label={
            kind === 'video'
              ? t`Film (WebM or MP4, up to 20 MB)`
              : t`File (PDF, text, table or picture)`
          }
        >
          <input name="file" type="file" accept={TAKES[kind]} required />
        </Labelled>
      )}
      {kind === 'video' && (
        <Labelled label={t`Its captions (WebVTT), for who can’t hear it`}>
          <input name="captions" type="file" accept=".vtt,text/vtt" required />
        </Labelled>
      )}
      <p>
        <Button type="submit" disabled={add.isPending}>
          {add.isPending ? t`Sending …` : t`Add it`}
        </Button>
      </p>
      <Problem error={add.error} />
    </form>
  )
}
