import { keepPreviousData, queryOptions } from '@tanstack/react-query'
import { api, call, type Schemas } from '../../../api/client'
import type { operations } from '../../../api/schema'
import { keys } from '../keys'

export type BankPage = Schemas['BankPageOut']
export type BankLine = Schemas['BankLineOut']
export type Written = Schemas['WrittenOut']
/** What a bank can be asked for, as it stands in the page's address. */
export type Filter = Required<NonNullable<operations['get_bank']['parameters']['query']>>

export const writtenQuery = queryOptions({
  queryKey: keys.written,
  queryFn: () => call(api.GET('/api/written')),
  staleTime: 60_000,
})

export const bankQuery = (course: string, filter: Filter) =>
  queryOptions({
    queryKey: keys.bankPage(course, filter),
    queryFn: () =>
      call(
        api.GET('/api/courses/{course}/authoring/bank', {
          params: { path: { course }, query: filter },
        }),
      ),
    placeholderData: keepPreviousData,
  })
