/** The size of text that the browser is set to, pixels. */
export function rem(): number {
  return Number.parseFloat(getComputedStyle(document.documentElement).fontSize)
}
