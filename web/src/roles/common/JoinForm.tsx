import { t } from '@lingui/core/macro'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useNavigate } from 'react-router'
import { api, call } from '../../api/client'
import { keys } from '../../api/keys'
import { CodeForm } from './CodeForm'

/** Joining a group, and its course, by the code a tutor gave. */
export function JoinForm() {
  const cache = useQueryClient()
  const navigate = useNavigate()
  const join = useMutation({
    mutationFn: (code: string) => call(api.POST('/api/join', { body: { code } })),
    onSuccess: async (course) => {
      await cache.invalidateQueries({ queryKey: keys.courses })
      await cache.invalidateQueries({ queryKey: keys.session })
      navigate(`/courses/${course.key}`)
    },
  })
  return <CodeForm label={t`Group code`} verb={t`Join group`} send={join} />
}
