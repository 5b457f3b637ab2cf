/** The line to the server that readings of callipers come over; docs/calliper.md says what is sent. */

export interface CalliperReading {
  readonly value: number
  readonly unit: 'mm' | 'in'
}

export type LineMessage =
  | ({ readonly type: 'reading' } & CalliperReading)
  | { readonly type: 'instruments'; readonly count: number }
  | { readonly type: 'taken'; readonly pages: number }
  | { readonly type: 'refused'; readonly reason: string }

export interface CalliperLine {
  /** Whether the reading went out; it does not while there is no connection. */
  send(reading: CalliperReading): boolean
  close(): void
}

/** How long after a loss the line is tried again, ms; doubled each time up to the longest. */
const firstRetry = 1000
const longestRetry = 30_000

/** Opens the line and keeps it open. `hear` gets each message, `connected` each change. */
export function openLine(
  as: 'instrument' | 'page',
  hear: (message: LineMessage) => void,
  connected: (is: boolean) => void = () => undefined,
): CalliperLine {
  let socket: WebSocket | undefined
  let retry = firstRetry
  let timer: ReturnType<typeof setTimeout> | undefined
  let closed = false
  const open = () => {
    socket = new WebSocket(`${location.origin.replace(/^http/, 'ws')}/api/calliper?as=${as}`)
    socket.onopen = () => {
      retry = firstRetry
      connected(true)
    }
    socket.onmessage = ({ data }) => {
      try {
        hear(JSON.parse(String(data)) as LineMessage)
      } catch {
        // What cannot be read is no reading.
      }
    }
    socket.onclose = () => {
      connected(false)
      if (closed) return
      timer = setTimeout(open, retry)
      retry = Math.min(longestRetry, retry * 2)
    }
  }
  open()
  return {
    send: (reading) => {
      if (socket?.readyState !== WebSocket.OPEN) return false
      socket.send(JSON.stringify({ type: 'reading', ...reading }))
      return true
    },
    close() {
      closed = true
      clearTimeout(timer)
      socket?.close()
    },
  }
}
