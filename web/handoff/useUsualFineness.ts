import { type UsualFineness, usualFineness } from '@makrel/core/exchange'
import { measuringFineness } from '@makrel/core/solids'
import { useBuild } from '../state/build.ts'
import { useFigures, useWorked } from '../state/built.ts'

/** The fineness that fits the part as it is drawn: by what its flats are off, and by its smallest round. */
export function useUsualFineness(): UsualFineness {
  const plan = useWorked()?.plan
  const flats = useBuild(({ pieces }) => pieces.reduce((sum, { volume }) => sum + volume, 0))
  const meant = useFigures()?.volume
  const rounds = [...(plan?.geometry.values() ?? [])].flatMap(({ faces }) =>
    faces.flatMap(({ round }) => (round ? [Math.abs(round)] : [])),
  )
  const smallest = rounds.length > 0 ? Math.min(...rounds) : undefined
  return usualFineness(meant ? flats / meant - 1 : 0, measuringFineness, smallest)
}
