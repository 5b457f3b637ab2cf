// Each configuration that reads this file has a copy of it: what they share is the process.
process.env.MAKREL_BUILT ??= Date.now().toString(36)

/** What this build of the application is known by: what one build has drawn is not shown by another one. */
export const define = { __VERSION_BUILT__: JSON.stringify(process.env.MAKREL_BUILT) }
