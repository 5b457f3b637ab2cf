/** As the drawing is tinted, in small pictures as well: material, what is taken away from it, and ink. */
export const [material, taken, ink] = [
  [199, 208, 211],
  [186, 167, 205],
  [20, 40, 44],
] as const
