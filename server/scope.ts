import type { FastifyRequest } from 'fastify'

/** Whose parts a request works on. */
export interface Scope {
  readonly owner: string
}

/** There is no login: whoever reaches this server works on one and the same shelf. */
export const everyone: Scope = { owner: '' }

/** The one place that tells whose parts a request is about. */
export function scopeOf(_request: FastifyRequest): Scope {
  return everyone
}
