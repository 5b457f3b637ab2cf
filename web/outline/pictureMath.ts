import type { OutlinePicture } from '@makrel/core/document'
import type { Vec2 } from '@makrel/core/plane'

/** The picture so large that two of its places are a distance apart; the first of them stays where it is. */
export function scaledPicture(picture: OutlinePicture, from: Vec2, to: Vec2, distance: number): OutlinePicture {
  const now = Math.hypot(to[0] - from[0], to[1] - from[1])
  if (now < 1e-9) return picture
  const by = distance / now
  const [x, y] = picture.at
  return { ...picture, width: picture.width * by, at: [from[0] + (x - from[0]) * by, from[1] + (y - from[1]) * by] }
}
