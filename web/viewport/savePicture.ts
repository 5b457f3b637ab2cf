import { say } from '../ui/Notice.tsx'
import { saveBytes } from '../ui/saveBytes.ts'
import { fieldLegend } from './fieldLegend.ts'
import { useView } from './view.ts'

/** Saves the drawing as it is seen now, with the scale of the field that is on it; the file is called by these names. */
export async function savePicture(...names: readonly (string | undefined)[]): Promise<void> {
  const bytes = await useView.getState().picture(fieldLegend())
  const name = names.filter(Boolean).join(' ')
  if (bytes) saveBytes(`${name.replace(/[^\p{L}\p{N}]+/gu, '-')}.png`, 'image/png', bytes)
  else say({ text: 'This browser could not make a picture of the drawing.' })
}
