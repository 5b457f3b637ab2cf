import { findStep, type Part } from '../../document/index.ts'

/** The nth id of a kind that no step has, the same each time it is asked for of the same part: "web-1". */
export function freeId(part: Part, kind: string, nth = 0): string {
  let left = nth
  for (let i = 1; ; i++) {
    const id = `${kind}-${i}`
    if (!findStep(part, id) && left-- === 0) return id
  }
}
