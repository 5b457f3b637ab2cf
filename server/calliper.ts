import websocket from '@fastify/websocket'
import type { FastifyInstance } from 'fastify'
import Joi from 'joi'

/**
 * Readings of callipers on their way to the pages that take them. An instrument (or a program that bridges a real one)
 * opens a WebSocket on /api/calliper?as=instrument and sends one JSON message for each reading:
 *
 *   {"type": "reading", "value": 12.43, "unit": "mm"}
 *
 * Each page (?as=page) gets it as it was sent, and is told how many instruments there are. docs/calliper.md has the whole.
 */
const reading = Joi.object({
  type: Joi.valid('reading').required(),
  value: Joi.number().min(-10_000).max(10_000).required(),
  unit: Joi.valid('mm', 'in').required(),
}).prefs({ convert: false, errors: { wrap: { label: false } } })

const query = Joi.object({ as: Joi.valid('instrument', 'page').required() })

/** Longer messages are no readings. */
const longest = 400
/** Instruments and pages together; further ones are turned away. */
const most = 64

interface Line {
  send(text: string): void
  close(code: number, reason: string): void
  on(event: 'message', hear: (data: unknown) => void): void
  on(event: 'close' | 'error', hear: () => void): void
}

export async function calliperRoutes(app: FastifyInstance): Promise<void> {
  await app.register(websocket, { options: { maxPayload: longest } })
  const instruments = new Set<Line>()
  const pages = new Set<Line>()
  const tell = (lines: Iterable<Line>, message: object) => {
    const text = JSON.stringify(message)
    for (const line of lines) line.send(text)
  }
  const count = () => ({ type: 'instruments', count: instruments.size })

  const join = (line: Line, as: 'instrument' | 'page') => {
    if (instruments.size + pages.size >= most) return line.close(1013, 'too many are connected')
    const lines = as === 'instrument' ? instruments : pages
    lines.add(line)
    const leave = () => {
      if (lines.delete(line) && as === 'instrument') tell(pages, count())
    }
    line.on('close', leave)
    line.on('error', leave)
    if (as === 'page') return tell([line], count())
    tell(pages, count())
    line.on('message', (data) => {
      const refused = refusal(String(data))
      if (refused) tell([line], { type: 'refused', reason: refused })
      else {
        tell(pages, JSON.parse(String(data)))
        tell([line], { type: 'taken', pages: pages.size })
      }
    })
  }
  await app.register(async (scope) => {
    scope.get<{ Querystring: { as: 'instrument' | 'page' } }>(
      '/api/calliper',
      { websocket: true, schema: { querystring: query } },
      (socket, request) => join(socket as unknown as Line, request.query.as),
    )
  })
}

/** Why a message is no reading, or undefined. */
function refusal(text: string): string | undefined {
  try {
    return reading.validate(JSON.parse(text)).error?.message
  } catch {
    return 'this is not JSON'
  }
}
