import { listed } from '../document/index.ts'
import type { FaceName } from '../fields/index.ts'

/** All faces of a step that are called so, in all its copies. */
export function facesCalled(
  { faces }: { readonly faces: readonly { readonly key: string }[] },
  { step, face }: FaceName,
): number[] {
  return faces.flatMap(({ key }, i) => {
    const [kind, id, , ...name] = key.split('/')
    return kind === 'step' && id === step && (face === undefined || name.join('/') === face) ? [i] : []
  })
}

/** The name of a face by its key, without what that in turn was made from: "round" of "round of front and top". */
export function shortName(key: string): string {
  return key
    .split('/')
    .slice(3)
    .join('/')
    .replace(/ of .*$/, '')
}

/** "back and front", of more than three "back, front and more". */
export function fewListed(names: readonly string[]): string {
  return names.length > 3 ? `${names.slice(0, 2).join(', ')} and more` : listed(names)
}
