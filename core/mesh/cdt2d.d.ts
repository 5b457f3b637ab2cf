declare module 'cdt2d' {
  /** Triangles between sides that do not cross: three places in `points` each. `exterior: false`: those that the sides enclose. */
  export default function cdt2d(
    points: readonly (readonly [number, number])[],
    sides: readonly (readonly [number, number])[],
    options?: { readonly exterior?: boolean },
  ): [number, number, number][]
}
