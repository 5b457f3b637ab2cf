/** A short id that no other step, piece or part has. */
export function newId(): string {
  return crypto.randomUUID().replaceAll('-', '').slice(0, 12)
}
