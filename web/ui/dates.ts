import { format, isThisYear, isToday } from 'date-fns'

/** "14:03" */
export function timeText(at: Date): string {
  return format(at, 'HH:mm')
}

/** "3 Nov 2026" */
export function dateText(at: Date): string {
  return format(at, 'd MMM yyyy')
}

/** The time of today; before that the day, and its year where that is another one: "14:03", "3 Nov", "3 Nov 2025". */
export function dayText(at: Date): string {
  if (isToday(at)) return timeText(at)
  return format(at, isThisYear(at) ? 'd MMM' : 'd MMM yyyy')
}

/** The same with the time: "14:03", "3 Nov 14:03", "3 Nov 2025 14:03". */
export function momentText(at: Date): string {
  return isToday(at) ? timeText(at) : `${dayText(at)} ${timeText(at)}`
}
