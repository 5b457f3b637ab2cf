/** The mackerel: the product's mark. */
export function Mark() {
  return (
    <svg viewBox="0 0 40 24" width="2rem" height="1.1875rem" aria-hidden="true">
      <path fill="var(--color-mackerel)" d="M2 12C8 4 20 2 29 10l8-7c-1 5-1 13 0 18l-8-7C20 22 8 20 2 12Z" />
      <path
        fill="none"
        stroke="var(--color-sheet)"
        strokeWidth="1.6"
        strokeLinecap="round"
        d="M13 5.6v4M17 4.8v5M21 5.2v5M25 7v4"
      />
      <circle cx="8" cy="11" r="1.3" fill="var(--color-sheet)" />
    </svg>
  )
}
