import { makeSecond, useWantedJoint } from '../make/startJoint.ts'
import { usePart } from '../state/part.ts'
import { Button } from '../ui/Button.tsx'

/** Asks what the second piece of a joint is, where one was chosen and there is none. */
export function SecondPiece() {
  const wanted = useWantedJoint((state) => state.wanted)
  const [first, second] = usePart((state) => state.part!.pieces)
  if (!wanted || !first || second) return null
  return (
    <div role="alert" className="mx-5 mt-3 border border-ink px-3 py-2.5">
      <p className="text-base">A {wanted.label} ties two pieces. What is the second one?</p>
      <div className="mt-2 flex flex-wrap gap-2">
        <Button autoFocus onClick={() => makeSecond('plate')}>
          A plate beside it
        </Button>
        <Button onClick={() => makeSecond('copy')}>A copy of {first.name}</Button>
        <Button onClick={() => useWantedJoint.setState({ wanted: undefined })}>Cancel</Button>
      </div>
    </div>
  )
}
