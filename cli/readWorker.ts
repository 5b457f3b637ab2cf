import { type Part, readPartFile } from '@makrel/core/document'
import { formatOf } from '@makrel/core/exchange'
import { type MeshFigures, meshFigures } from '@makrel/core/mesh'
import { upgraded } from '@makrel/core/planning'
import { type Answer, answer } from '@makrel/threads'

/** A piece of a mesh file, as the reader finds it. */
export interface MeasuredPiece extends MeshFigures {
  readonly name: string
}

export function part({ text }: { text: string }): Answer<Part> {
  return answer(() => upgraded(readPartFile(text)))
}

export function mesh({ format, bytes }: { format: string; bytes: Uint8Array }): Answer<readonly MeasuredPiece[]> {
  return answer(() =>
    formatOf(format)!
      .read(bytes)
      .map(({ name, mesh, count }) => ({ name, ...meshFigures(mesh), triangles: count })),
  )
}
