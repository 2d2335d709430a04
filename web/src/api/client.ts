import { t } from '@lingui/core/macro'
import createClient from 'openapi-fetch'
import type { components, paths } from './schema'

export type Schemas = components['schemas']
export type Reading = Schemas['ReadingOut']
export type Question = Schemas['QuestionOut']
export type Part = Question['parts'][number]
export type PartState = Schemas['PartStateOut']
export type Run = Schemas['RunOut']
export type RunState = Schemas['RunStateOut']
export type Answer = Schemas['AnswerOut']
export type Feedback = Schemas['FeedbackOut']
export type TopicLine = Schemas['TopicLineOut']
export type Step = Schemas['StepOut']
export type Purpose = Run['purpose']

type Posted = { post: { requestBody: { content: { 'application/json': unknown } } } }
/** What is posted to an address. */
export type Body<
  P extends { [K in keyof paths]: paths[K] extends Posted ? K : never }[keyof paths],
> = paths[P] extends { post: { requestBody: { content: { 'application/json': infer B } } } }
  ? B
  : never

/** What others stored since something was opened, in the shape a change of it is sent in. */
export interface Standing {
  version: string
  current: object
}

/** An answer of the API that says no: a stable code, a sentence, and fields at fault. */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    detail: string,
    readonly fields: Record<string, string> = {},
    readonly standing: Standing | null = null,
  ) {
    super(detail)
  }
}

/** The server could not be reached: nothing is known to have arrived. */
export class Unreachable extends Error {}

/** The server answered, and something went wrong there or the reply can't be read: it may be sent
 * again, and nothing that was typed is gone. */
export class ServerTrouble extends Error {}

const client = createClient<paths>({ baseUrl: '/' })

client.use({
  onRequest({ request }) {
    const token = document.cookie.match(/(?:^|; )(?:__Host-)?csrftoken=([^;]+)/)?.[1]
    if (token && request.method !== 'GET') request.headers.set('X-CSRFToken', token)
    return request
  },
})

interface Result<T> {
  data?: T
  error?: unknown
  response: Response
}

/** The data of a call, or ApiError, or Unreachable. */
export async function call<T>(pending: Promise<Result<T>>): Promise<T> {
  let result: Result<T>
  try {
    result = await pending
  } catch (error) {
    if (error instanceof SyntaxError)
      throw new ServerTrouble(t`We couldn’t read the server’s reply. Please try again.`)
    throw new Unreachable(t`You are offline.`)
  }
  if (result.data !== undefined) return result.data
  const body = (result.error ?? {}) as {
    code?: string
    detail?: string
    fields?: Record<string, string>
    version?: string
    current?: object
  }
  const { status } = result.response
  if (status === 502 || status === 503 || status === 504)
    throw new Unreachable(t`Vendaval isn’t answering at the moment.`)
  if (status >= 500) throw new ServerTrouble(t`Something went wrong on our side. Please try again.`)
  throw new ApiError(
    status,
    body.code ?? 'unknown',
    body.detail ?? t`Something went wrong on our side. Please try again.`,
    body.fields,
    body.version !== undefined && body.current
      ? { version: body.version, current: body.current }
      : null,
  )
}

export { client as api }
