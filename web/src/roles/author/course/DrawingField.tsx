import { t } from '@lingui/core/macro'
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { Button } from '../../../ui/Button'
import { Labelled, Problem, TextField } from '../../../ui/Field'
import { keptName } from './names'
import { addDrawing, type StudyPage } from './queries'

interface Props {
  course: string
  topic: string
  onDrawn: (name: string, alt: string, page: StudyPage) => void
}

/** A drawing from this device, with what it shows: put at the end of a section. */
export function DrawingField({ course, topic, onDrawn }: Props) {
  const [file, setFile] = useState<{ name: string; svg: string } | null>(null)
  const [alt, setAlt] = useState('')
  const add = useMutation({
    mutationFn: ({ name, svg }: { name: string; svg: string }) =>
      addDrawing(course, topic, { name, svg }),
    onSuccess: (page, { name }) => {
      onDrawn(name, alt, page)
      setFile(null)
      setAlt('')
    },
  })
  return (
    <details>
      <summary className="cursor-pointer text-gust">{t`Add a drawing`}</summary>
      <div className="mt-2 grid gap-2">
        <Labelled label={t`A drawing from this device (SVG)`}>
          <input
            type="file"
            accept=".svg,image/svg+xml"
            onChange={async ({ target }) => {
              const chosen = target.files?.[0]
              if (chosen)
                setFile({ name: keptName(chosen.name, 'drawing'), svg: await chosen.text() })
            }}
          />
        </Labelled>
        <TextField
          label={t`What it shows, for who can’t see it`}
          value={alt}
          maxLength={300}
          onText={(text) => setAlt(text.replaceAll(/[[\]]/g, ''))}
        />
        <p>
          <Button
            disabled={!file || alt.trim() === '' || add.isPending}
            onClick={() => file && add.mutate(file)}
          >{t`Add`}</Button>
        </p>
        <Problem error={add.error} />
      </div>
    </details>
  )
}
