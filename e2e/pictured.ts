import { TestServer } from './testServer.ts'

interface Shelf {
  readonly entries: readonly { readonly id: string; readonly revision: number }[]
}

/** One dark point. What shelf pictures look like, the journey of a first visit asks: it has them drawn. */
const png = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg=='

/** Makes the databases that journeys begin with: the demo parts as they come, and with a picture each, so that none of them is drawn for the shelf. */
export default async function pictured(): Promise<void> {
  const server = new TestServer(4590)
  const plain = `${server.database}.plain`
  await server.start()
  try {
    await server.copyTo(plain)
    const { entries } = (await (await fetch(`${server.url}/api/parts?count=100`)).json()) as Shelf
    for (const { id, revision } of entries) {
      const answer = await fetch(`${server.url}/api/parts/${id}/picture`, {
        method: 'PUT',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ revision, png, size: [10, 10, 10] }),
      })
      if (!answer.ok) throw new Error(`${id} got no picture: ${answer.status}`)
    }
  } finally {
    await server.stop()
  }
  process.env.MAKREL_E2E_PLAIN = plain
  process.env.MAKREL_E2E_PICTURED = server.database
}
