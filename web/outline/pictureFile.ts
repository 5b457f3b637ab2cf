/** Pictures are kept with the part, so they are made no larger than a drawing needs: pixels along the longer side. */
const mostPixels = 1600

/** A picture from a file as data, small enough to be kept; or why it is not taken. */
export async function shrunkPicture(
  file: File,
  mostCharacters: number,
): Promise<{ readonly data: string } | { readonly detail: string }> {
  if (!['image/png', 'image/jpeg'].includes(file.type))
    return { detail: 'Only PNG and JPEG pictures can lie under a drawing.' }
  let image: ImageBitmap
  try {
    image = await createImageBitmap(file)
  } catch {
    return { detail: `${file.name} cannot be read as a picture.` }
  }
  const scale = Math.min(1, mostPixels / Math.max(image.width, image.height))
  const canvas = document.createElement('canvas')
  canvas.width = Math.max(1, Math.round(image.width * scale))
  canvas.height = Math.max(1, Math.round(image.height * scale))
  const pen = canvas.getContext('2d')!
  // A see-through ground would turn black.
  pen.fillStyle = '#fff'
  pen.fillRect(0, 0, canvas.width, canvas.height)
  pen.drawImage(image, 0, 0, canvas.width, canvas.height)
  image.close()
  for (const quality of [0.85, 0.7, 0.5, 0.3]) {
    const data = canvas.toDataURL('image/jpeg', quality)
    if (data.length <= mostCharacters) return { data }
  }
  return { detail: 'This picture is too large to be kept with the part; make it smaller first.' }
}
