import { usePrinted } from './posed.ts'

/** Says in which pose a part is printed, where that is not how it is drawn. */
export function PrintedIn() {
  const printed = usePrinted()
  return printed ? (
    <p className="mt-1 text-ink-soft">
      As it is printed, in the pose <span className="text-ink">{printed.pose.name}</span>.
    </p>
  ) : null
}
