/** A short id that no other step, piece or part has. */
export function newId(): string {
  // Browsers give whole ids on this machine only; random bytes they give everywhere.
  return [...crypto.getRandomValues(new Uint8Array(6))].map((byte) => byte.toString(16).padStart(2, '0')).join('')
}
