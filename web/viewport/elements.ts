/**
 * What of the drawing library is written as elements. The canvas takes these for all that there are (vite.config.ts): the rest of the library
 * is then left out of the page, unless something imports it. A new kind of element is named here.
 */
export {
  Group,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  MeshBasicMaterial,
  MeshLambertMaterial,
  PlaneGeometry,
  Points,
  PointsMaterial,
} from 'three'
