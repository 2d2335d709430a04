import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { api, call } from '../../api/client'
import { keys } from '../../api/keys'
import { Button } from '../../ui/Button'
import { Input, Labelled, Problem } from '../../ui/Field'

/** Joining a group, and its course, by the code a tutor gave. */
export function JoinForm() {
  const [code, setCode] = useState('')
  const cache = useQueryClient()
  const navigate = useNavigate()
  const join = useMutation({
    mutationFn: () => call(api.POST('/api/join', { body: { code } })),
    onSuccess: async (course) => {
      await cache.invalidateQueries({ queryKey: keys.courses })
      await cache.invalidateQueries({ queryKey: keys.session })
      navigate(`/courses/${course.key}`)
    },
  })
  return (
    <form
      className="flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault()
        join.mutate()
      }}
    >
      <Labelled label="Code of a group">
        <Input
          value={code}
          onChange={(event) => setCode(event.target.value)}
          required
          minLength={4}
          maxLength={20}
          autoComplete="off"
          autoCapitalize="characters"
          className="w-48 font-semibold tracking-wider uppercase"
        />
      </Labelled>
      <Button type="submit" disabled={join.isPending}>
        Join the group
      </Button>
      <Problem error={join.error} />
    </form>
  )
}
