import { keepPreviousData, queryOptions } from '@tanstack/react-query'
import { api, call } from '../../../api/client'
import { keys } from '../../../api/keys'
import { atTest, LOOK_AGAIN } from '../queries'

/** Everybody's results; looked at again while somebody sits the test. */
export const outcomesQuery = (group: number, assignment: number, together: boolean) =>
  queryOptions({
    queryKey: keys.outcomes(group, assignment, together),
    queryFn: () =>
      call(
        api.GET('/api/groups/{group_id}/tests/{assignment_id}/outcomes', {
          params: { ...atTest(group, assignment), query: { together } },
        }),
      ),
    placeholderData: keepPreviousData,
    refetchInterval: ({ state }) =>
      state.data?.learners.some((one) => one.state === 'under_way') ? LOOK_AGAIN : false,
  })

export const analysisQuery = (group: number, assignment: number) =>
  queryOptions({
    queryKey: keys.analysis(group, assignment),
    queryFn: () =>
      call(
        api.GET('/api/groups/{group_id}/tests/{assignment_id}/analysis', {
          params: atTest(group, assignment),
        }),
      ),
  })

export const comparisonQuery = (group: number, assignment: number) =>
  queryOptions({
    queryKey: keys.comparison(group, assignment),
    queryFn: () =>
      call(
        api.GET('/api/groups/{group_id}/tests/{assignment_id}/comparison', {
          params: atTest(group, assignment),
        }),
      ),
  })

export const testAnalysisQuery = (course: string, test_id: number) =>
  queryOptions({
    queryKey: keys.testAnalysis(course, test_id),
    queryFn: () =>
      call(
        api.GET('/api/courses/{course}/composed/{test_id}/analysis', {
          params: { path: { course, test_id } },
        }),
      ),
  })
