import type { Part } from '@makrel/core/document'
import type { BroughtIn, FileUnit, OpenedMesh } from '@makrel/core/exchange'
import { type Printer, shippedPrinters } from '@makrel/core/fits'
import { create } from 'zustand'
import { reader } from '../channel/client.ts'
import { say } from '../ui/Notice.tsx'
import { chosenFile } from './files.ts'

/** Where a mesh goes: into the open part, in the place of a step's own, or into a part of its own. */
export type Into =
  | { readonly kind: 'part' }
  | { readonly kind: 'step'; readonly id: string }
  | { readonly kind: 'shelf'; made(part: Part): Promise<void> }

interface BringInState {
  /** the name of the file that is being brought in */
  readonly file: string | undefined
  readonly into: Into | undefined
  /** undefined while it is being read, and where it cannot be */
  readonly opened: OpenedMesh | undefined
  readonly unit: FileUnit
  readonly fault: string | undefined
  readonly busy: boolean
}

const nothing: BringInState = {
  ...{ file: undefined, into: undefined, opened: undefined, unit: 'mm', fault: undefined, busy: false },
}
export const useBringIn = create<BringInState>()(() => nothing)

/** Asks for a file of a format that meshes are read from; undefined where none was chosen. */
export async function chosenMesh(): Promise<File | undefined> {
  const { formats } = await import('@makrel/core/exchange')
  return chosenFile(formats.map(({ extension }) => `.${extension}`).join(','))
}

export function closeBringIn(): void {
  useBringIn.setState(nothing)
}

/** Reads a mesh file, to be asked what its numbers mean. */
export async function openMeshFile(file: File, into: Into, printer: Printer | undefined): Promise<void> {
  useBringIn.setState({ ...nothing, file: file.name, into, busy: true })
  const current = () => useBringIn.getState().file === file.name
  try {
    const { mostMeshBytes } = await import('@makrel/core/exchange')
    if (file.size > mostMeshBytes) throw new Error(`It is larger than ${mostMeshBytes / 1e6} MB.`)
    const bytes = new Uint8Array(await file.arrayBuffer())
    const { bed } = printer ?? shippedPrinters[0]!
    const read = await reader().call('openMesh', { file: file.name, bytes, bed })
    if (!current()) return
    if (!read.ok) throw new Error(read.problem.text)
    useBringIn.setState({ opened: read.value, unit: read.value.unit, busy: false })
  } catch (error) {
    if (current()) useBringIn.setState({ fault: (error as Error).message, busy: false })
  }
}

/** The chosen unit is right: what the file holds becomes steps. */
export async function bringItIn(): Promise<void> {
  const { opened, unit, into, file } = useBringIn.getState()
  if (!opened || !into) return
  useBringIn.setState({ busy: true, fault: undefined })
  try {
    const read = await reader().call('bringIn', { opened, unit })
    if (useBringIn.getState().file !== file) return
    if (!read.ok) throw new Error(read.problem.text)
    await putInto(into, read.value, opened.file)
    closeBringIn()
    const sum = (of: 'united' | 'leftOut') => read.value.reduce((all, each) => all + each[of], 0)
    const [united, leftOut] = [sum('united'), sum('leftOut')]
    const said = [
      ...(united > 0 ? [`${united} bodies of ${opened.file} ran into one another: they are one now.`] : []),
      ...(leftOut === 1 ? ['One triangle was there twice or had no area: it was left out.'] : []),
      ...(leftOut > 1 ? [`${leftOut} triangles were there twice or had no area: they were left out.`] : []),
    ]
    if (said.length > 0) say({ text: said.join(' ') })
  } catch (error) {
    useBringIn.setState({ fault: (error as Error).message, busy: false })
  }
}

async function putInto(into: Into, meshes: readonly BroughtIn[], file: string): Promise<void> {
  const { addedMeshes, partOfMeshes, replacedMesh } = await import('./steps.ts')
  if (into.kind === 'shelf') await into.made(partOfMeshes(meshes, file))
  else if (into.kind === 'step') replacedMesh(into.id, meshes)
  else addedMeshes(meshes)
}
