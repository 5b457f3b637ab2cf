import type { Place, Step } from '../document/index.ts'
import { onFace, step } from './index.ts'

/** A plate with up to six solids and cuts on it, anywhere. */
export function randomSolid(random: () => number): Step[] {
  const size = (low: number, high: number) => (low + (high - low) * random()).toFixed(2)
  const pick = <T>(all: readonly T[]) => all[Math.floor(random() * all.length)]!
  const corner = random() < 0.3 ? size(0.5, 4) : '0'
  const base = step('b', 'plate', { width: size(15, 40), depth: size(15, 40), height: size(4, 15), corner })
  const others = Array.from({ length: 2 + Math.floor(random() * 6) }, (_, i): Step => {
    const by = () => ({ from: 'centre', to: 'centre', by: size(-15, 15) }) as const
    const turn = random() < 0.5 ? '0' : size(0, 90)
    const place: Partial<Place> = { ...onFace('b', 'top'), across: by(), along: by(), turn }
    const cut = random() < 0.4 ? { operation: 'cut' } : {}
    const plate = { width: size(4, 15), depth: size(4, 15), height: size(1, 8) }
    const round = { diameter: size(4, 12), height: size(1, 8) }
    switch (pick(['plate', 'bar', 'hole', 'wedge', 'prism', 'bar'])) {
      case 'plate':
        return step(`s${i}`, 'plate', plate, { place, ...cut })
      case 'bar':
        return step(`s${i}`, 'bar', round, { place, ...cut })
      case 'hole':
        return step(`s${i}`, 'hole', { diameter: size(2, 8) }, { place })
      case 'wedge':
        return step(`s${i}`, 'wedge', {}, { place })
      default:
        return step(`s${i}`, 'prism', { sides: pick(['3', '5', '6']), size: size(6, 14) }, { place })
    }
  })
  return [base, ...others]
}
