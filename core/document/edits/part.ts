import type { Material, Printer } from '../../fits/index.ts'
import type { PartUnit } from '../../units/index.ts'
import type { Asset, FieldKindOf, KeptFlex, KeptLoad, KeptPose, KeptView, Part, SetAside, Stance } from '../format.ts'
import { inUnitOf } from '../unit.ts'
import { withItemKept, withItemRemoved } from './lists.ts'

/** The part as a whole. */
export const partEdits = {
  rename: (part: Part, { name }: { readonly name: string }): Part =>
    name.trim() === '' || name === part.name ? part : { ...part, name: name.trim() },
  describe: (part: Part, { note }: { readonly note: string }): Part => ({ ...part, note }),
  /** As it is where a size could not be kept; `inUnitOf` tells which. */
  'set-unit': (part: Part, { unit }: { readonly unit: PartUnit }, kindOf: FieldKindOf): Part => {
    const { part: changed, faults } = inUnitOf(part, unit, kindOf)
    return faults.length > 0 ? part : changed
  },
  'set-printer': (part: Part, { printer }: { readonly printer: Printer }): Part => ({ ...part, printer }),
  'set-material': (part: Part, { material }: { readonly material: Material }): Part => ({ ...part, material }),
  'set-step-size': (part: Part, { stepSize }: { readonly stepSize: string }): Part =>
    stepSize === part.stepSize ? part : { ...part, stepSize },
  'add-asset': (part: Part, { asset }: { readonly asset: Asset }): Part =>
    part.assets.some(({ hash }) => hash === asset.hash) ? part : { ...part, assets: [...part.assets, asset] },
  'keep-view': (part: Part, { view }: { readonly view: KeptView }): Part => ({
    ...part,
    views: [...part.views.filter(({ name }) => name !== view.name), view],
  }),
  'drop-view': (part: Part, { id }: { readonly id: string }): Part => withItemRemoved(part, 'views', id),
  /** In place of the one with the same id, if there is one. */
  'keep-pose': (part: Part, { pose }: { readonly pose: KeptPose }): Part => withItemKept(part, 'poses', pose),
  /** If it was printed so, the part is printed as it is drawn again. */
  'drop-pose': (part: Part, { id }: { readonly id: string }): Part => {
    const dropped = withItemRemoved(part, 'poses', id)
    return dropped.printPose === id ? { ...dropped, printPose: '' } : dropped
  },
  /** In place of the one with the same id, if there is one. */
  'keep-flex': (part: Part, { flex }: { readonly flex: KeptFlex }): Part => withItemKept(part, 'flexes', flex),
  'drop-flex': (part: Part, { id }: { readonly id: string }): Part => withItemRemoved(part, 'flexes', id),
  /** In place of the one with the same id, if there is one. */
  'keep-load': (part: Part, { load }: { readonly load: KeptLoad }): Part => withItemKept(part, 'loads', load),
  'drop-load': (part: Part, { id }: { readonly id: string }): Part => withItemRemoved(part, 'loads', id),
  /** In place of the one with the same id, if there is one. */
  'keep-stance': (part: Part, { stance }: { readonly stance: Stance }): Part => withItemKept(part, 'stances', stance),
  'drop-stance': (part: Part, { id }: { readonly id: string }): Part => withItemRemoved(part, 'stances', id),
  'set-least-wall': (part: Part, { leastWall }: { readonly leastWall: string }): Part =>
    leastWall.trim() === part.leastWall ? part : { ...part, leastWall: leastWall.trim() },
  /** In place of what was set aside that said the very same. */
  'set-aside': (part: Part, { aside }: { readonly aside: SetAside }): Part => ({
    ...part,
    setAside: [...part.setAside.filter((own) => !isOfSame(own, aside)), aside],
  }),
  'take-up': (part: Part, { id }: { readonly id: string }): Part => withItemRemoved(part, 'setAside', id),
  /** Empty for how it is drawn. */
  'print-pose': (part: Part, { id }: { readonly id: string }): Part =>
    id === part.printPose || (id !== '' && !part.poses.some((pose) => pose.id === id))
      ? part
      : { ...part, printPose: id },
}

function isOfSame(a: SetAside, b: SetAside): boolean {
  const isSaid = a.check === b.check && a.code === b.code && a.said === b.said
  return isSaid && JSON.stringify(a.about) === JSON.stringify(b.about)
}
