/**
 * How a document of an earlier version becomes one of the next: `migrations[n - 1]` takes version n to n + 1.
 * A migration is a pure function of plain JSON, so that it does not change when the types do. Version 1 is the first.
 */
export const migrations: readonly ((document: unknown) => unknown)[] = []
