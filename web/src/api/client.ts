import createClient from 'openapi-fetch'
import type { components, paths } from './schema'

export type Schemas = components['schemas']

/** A request the server could not do, with its message for people. */
export class ApiError extends Error {
  constructor(readonly status: number, message: string, readonly body: unknown = null) {
    super(message)
  }
}

let token = ''

/** Every change must carry the token that came with the session. */
export function setToken(csrf: string) {
  token = csrf
}

export function csrfToken() {
  return token
}

export const api = createClient<paths>({ baseUrl: window.location.origin })

api.use({
  onRequest({ request }) {
    if (token) request.headers.set('X-CSRFToken', token)
    return request
  },
})

interface Answer<T> {
  data?: T
  error?: unknown
  response: Response
}

/** The data of an answer; throws ApiError with a message that says what happened. */
export async function got<T>(asked: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>
  try {
    answer = await asked
  } catch {
    throw new ApiError(0, 'The server cannot be reached. Check the connection; what you did is kept, and sent as soon as it answers.')
  }
  if (answer.response.ok) return answer.data as T
  const body = answer.error as { detail?: unknown } | undefined
  const message = typeof body?.detail === 'string' ? body.detail : `The server answered ${answer.response.status}. Try again.`
  throw new ApiError(answer.response.status, message, body)
}
