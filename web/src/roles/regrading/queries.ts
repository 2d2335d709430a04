import { queryOptions } from '@tanstack/react-query'
import { api, call, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'

export type Way = Schemas['RegradeWay']
export type Regrades = Schemas['RegradesOut']

const REGRADES = '/api/groups/{group_id}/tests/{assignment_id}/regrades' as const
const at = (group_id: number, assignment_id: number) => ({ group_id, assignment_id })
const LOOK_AGAIN = 1_500
const GOING = ['waiting', 'applying', 'undoing']

/** Looked at again while one is applied or undone. */
export const regradesQuery = (group: number, assignment: number) =>
  queryOptions({
    queryKey: keys.regrades(group, assignment),
    queryFn: () => call(api.GET(REGRADES, { params: { path: at(group, assignment) } })),
    refetchInterval: ({ state }) =>
      state.data?.regrades.some((one) => GOING.includes(one.state)) ? LOOK_AGAIN : false,
  })

export const choiceQuery = (group: number, assignment: number, family: string) =>
  queryOptions({
    queryKey: keys.regradeChoice(group, assignment, family),
    queryFn: () =>
      call(
        api.GET(`${REGRADES}/{family}`, { params: { path: { ...at(group, assignment), family } } }),
      ),
  })

export const previewQuery = (group: number, assignment: number, family: string, way: Way | null) =>
  queryOptions({
    queryKey: keys.regradePreview(group, assignment, family, way),
    queryFn: () =>
      call(
        api.POST(`${REGRADES}/{family}/preview`, {
          params: { path: { ...at(group, assignment), family } },
          body: way as Way,
        }),
      ),
    enabled: way !== null,
  })

export const regrade = (
  group: number,
  assignment: number,
  family: string,
  body: Schemas['RegradeIn'],
) =>
  call(
    api.POST(`${REGRADES}/{family}`, {
      params: { path: { ...at(group, assignment), family } },
      body,
    }),
  )

export const undoRegrade = (group: number, assignment: number, regrade_id: number) =>
  call(
    api.POST(`${REGRADES}/{regrade_id}/undo`, {
      params: { path: { ...at(group, assignment), regrade_id } },
    }),
  )
