import { queryOptions } from '@tanstack/react-query'
import { api, call } from '../../../api/client'
import { keys } from '../../author/keys'

/** The own questions of a group, read anew whenever a page of theirs is opened. */
export const ownQuestionsQuery = (group_id: number) =>
  queryOptions({
    queryKey: keys.ownQuestions(group_id),
    queryFn: () =>
      call(api.GET('/api/groups/{group_id}/questions', { params: { path: { group_id } } })),
  })
