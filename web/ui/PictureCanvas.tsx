import type { Picture } from '@makrel/core/pictures'
import { useEffect, useRef } from 'react'

/** A small picture that a worker has drawn; `label` where it says something that is not beside it in words. */
export function PictureCanvas({
  picture,
  style,
  label,
}: {
  readonly picture: Picture
  readonly style?: React.CSSProperties
  readonly label?: string
}) {
  const canvas = useRef<HTMLCanvasElement>(null)
  useEffect(() => {
    const { dots, width, height } = picture
    canvas.current?.getContext('2d')?.putImageData(new ImageData(dots, width, height), 0, 0)
  }, [picture])
  return (
    <canvas
      ref={canvas}
      width={picture.width}
      height={picture.height}
      style={style}
      {...(label ? { role: 'img', 'aria-label': label } : { 'aria-hidden': true })}
    />
  )
}
