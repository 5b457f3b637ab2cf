/** Triangle meshes as data: measured and checked without the solid library, so that they can check what it made. */
export interface TriangleMesh {
  /** x, y, z per vertex, mm */
  readonly positions: Float32Array | Float64Array
  /** three vertex indices per triangle, counter-clockwise seen from outside */
  readonly triangles: Uint32Array
}
