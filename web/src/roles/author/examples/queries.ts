import { api, call, type Schemas } from '../../../api/client'

export type Formula = Schemas['FormulaOut']
const at = (course: string) => ({ params: { path: { course } } })

export const lookFor = (course: string, body: Schemas['ExamplesIn'], signal: AbortSignal) =>
  call(api.POST('/api/courses/{course}/authoring/examples', { ...at(course), body, signal }))

export const beginFromExamples = (course: string, body: Schemas['BeginFromExamplesIn']) =>
  call(api.POST('/api/courses/{course}/authoring/examples/begin', { ...at(course), body }))
