import { buildServer } from '../../scripts/build.mjs'

/** Builds the server before its tests run, with the workers that it starts. */
export default async function built(): Promise<void> {
  await buildServer()
}
