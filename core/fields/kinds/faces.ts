import { type FieldBase, type FieldKindDefinition, holdsNoExpressions } from '../define.ts'
import { behindComma, replaced, type Stretch } from '../stretches.ts'
import { type FaceName, faceNameOf, faceNameText } from './edges.ts'

/** Faces of the finished solid, "base/top; bore/wall", of all copies of their steps; none where the text is empty. */
export interface FacesField extends FieldBase {
  readonly kind: 'faces'
}

/** Faces with a length each, which may be an expression: "base/bottom, 3; base/left, wall * 2". */
export interface FaceSizesField extends FieldBase {
  readonly kind: 'faceSizes'
}
export interface FaceSize {
  readonly face: FaceName
  /** mm */
  readonly size: number
}

export const faces: FieldKindDefinition<FacesField, readonly FaceName[]> = {
  mapExpressions: holdsNoExpressions,
  mapReferences: (text, { step }) => (step ? mappedFaces(text, step) : text),
  resolve: (_, text) => faceNames(text),
}

export const faceSizes: FieldKindDefinition<FaceSizesField, readonly FaceSize[]> = {
  mapExpressions: (text, change) =>
    replaced(
      text,
      faceSizeStretches(text).map(({ size }) => size),
      (size) => change(size, 'length'),
    ),
  mapReferences: (text, { step }) => (step ? mappedFaces(text, step) : text),
  resolve({ label }, text, working) {
    const found = faceSizeStretches(text).map(({ face, size }): FaceSize | undefined => {
      const value = working.number(size.text, 'length')
      if (value === undefined) return undefined
      if (value < 0) return working.tell('too-small', { label, value: `${value} mm`, bound: '0 mm' })
      return { face: faceNameOf(face), size: value }
    })
    return found.includes(undefined) ? undefined : (found as FaceSize[])
  },
}

export function faceNames(text: string): FaceName[] {
  return text
    .split(';')
    .filter((part) => part.trim() !== '')
    .map(faceNameOf)
}

export function faceNamesText(names: readonly FaceName[]): string {
  return names.map(faceNameText).join('; ')
}

/** The name and the size of each, as they were typed. */
export function faceSizeTexts(text: string): { readonly face: FaceName; readonly size: string }[] {
  return faceSizeStretches(text).map(({ face, size }) => ({ face: faceNameOf(face), size: size.text.trim() }))
}

export function faceSizesText(all: readonly { readonly face: FaceName; readonly size: string }[]): string {
  return all.map(({ face, size }) => `${faceNameText(face)}, ${size}`).join('; ')
}

/** Items end at a semicolon; the size stands behind the last comma that is in no brackets. */
function faceSizeStretches(text: string): { readonly face: string; readonly size: Stretch }[] {
  const found: { face: string; size: Stretch }[] = []
  let start = 0
  for (const item of text.split(';')) {
    const size = behindComma(item)
    if (size) found.push({ face: item.slice(0, size.start - 1), size: { text: size.text, start: start + size.start } })
    start += item.length + 1
  }
  return found
}

/** The text with the step of each face put through `step`. */
function mappedFaces(text: string, step: (id: string) => string | undefined): string {
  return text
    .split(';')
    .map((item) => {
      const [, blank, id, rest] = /^(\s*)([^/,;\s]+)(.*)$/s.exec(item) ?? []
      return id === undefined ? item : `${blank}${step(id) ?? id}${rest}`
    })
    .join(';')
}
