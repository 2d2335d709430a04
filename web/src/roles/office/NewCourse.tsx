import { t } from '@lingui/core/macro'
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { api, call, type Schemas } from '../../api/client'
import { Button } from '../../ui/Button'
import { Problem, TextField } from '../../ui/Field'
import { Pick } from '../composing/Pick'

type School = Schemas['SchoolOut']

const EMPTY = { title: '', copy_of: '', subject: '', topic: '' }

/** A new course: with its first topic, or as a copy of another for another year. */
export function NewCourse({ school, onMade }: { school: School; onMade: (next: School) => void }) {
  const [wanted, setWanted] = useState(EMPTY)
  const set = (next: Partial<typeof EMPTY>) => setWanted({ ...wanted, ...next })
  const make = useMutation({
    mutationFn: () => call(api.POST('/api/office/courses', { body: wanted })),
    onSuccess: (next) => {
      setWanted(EMPTY)
      onMade(next)
    },
  })
  return (
    <form
      className="grid gap-4"
      onSubmit={(event) => {
        event.preventDefault()
        make.mutate()
      }}
    >
      <h2 className="text-xl">{t`New course`}</h2>
      <div className="grid items-end gap-4 @3xl:grid-cols-2">
        <TextField
          label={t`Name of the course`}
          required
          minLength={3}
          maxLength={120}
          value={wanted.title}
          onText={(title) => set({ title })}
        />
        <Pick
          label={t`Begin with`}
          options={[
            ['', t`an empty course`],
            ...school.courses.map(({ key, title }): [string, string] => [
              key,
              t`a copy of ${title}`,
            ]),
          ]}
          value={wanted.copy_of}
          onChange={(copy_of) => set({ copy_of })}
        />
        {wanted.copy_of === '' && (
          <>
            <TextField
              label={t`First subject`}
              required
              maxLength={120}
              value={wanted.subject}
              onText={(subject) => set({ subject })}
            />
            <TextField
              label={t`First topic`}
              required
              maxLength={120}
              value={wanted.topic}
              onText={(topic) => set({ topic })}
            />
          </>
        )}
      </div>
      <p className="text-ink-2">
        {wanted.copy_of === ''
          ? t`Every author of your school can then write questions for it. Learners see it once it has a question.`
          : t`Topics, study pages and questions are copied. Learners, groups and answers aren’t.`}
      </p>
      <p className="flex flex-wrap items-center gap-4">
        <Button type="submit" disabled={make.isPending}>{t`Create course`}</Button>
        <span role="status">{make.isSuccess && t`Created.`}</span>
      </p>
      <Problem error={make.error} />
    </form>
  )
}
