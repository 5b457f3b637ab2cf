import { usePart } from '../state/part.ts'
import { belly, ink, inkSoft, line, mackerel, rust, sheet } from './colours.ts'
import { fieldText, limitText, shareOf, useShown } from './shownField.ts'

/** Where the scale is on a picture, and how large; px. */
const [left, top, width, bar] = [16, 16, 240, 12]
const inside = 12

/** Draws the scale of the field that is on the drawing onto a picture of it, where there is one. */
export function fieldLegend(): ((pen: CanvasRenderingContext2D) => void) | undefined {
  const { field } = useShown.getState()
  const unit = usePart.getState().part?.unit
  if (!field || !unit) return undefined
  return (pen) => {
    pen.fillStyle = sheet
    pen.strokeStyle = line
    pen.lineWidth = 1
    pen.fillRect(left, top, width + 2 * inside, 68)
    pen.strokeRect(left, top, width + 2 * inside, 68)
    const [x, y] = [left + inside, top + 30]
    const text = (what: string, colour: string, at: number, below: number, align: CanvasTextAlign, weight = 400) => {
      pen.font = `${weight} 13px ${getComputedStyle(document.body).fontFamily}`
      pen.fillStyle = colour
      pen.textAlign = align
      pen.fillText(what, at, below)
    }
    text(field.label, ink, x, y - 9, 'left', 600)
    text(limitText(field, unit), inkSoft, x + width, y - 9, 'right')
    const limit = x + width * shareOf(field.limit, field)
    const isBelow = field.broken === 'below'
    const [bad, good] = isBelow
      ? [[x, limit] as const, [limit, x + width] as const]
      : [[limit, x + width] as const, [x, limit] as const]
    const fading = pen.createLinearGradient(good[0], 0, good[1], 0)
    fading.addColorStop(isBelow ? 0 : 1, mackerel)
    fading.addColorStop(isBelow ? 1 : 0, belly)
    pen.fillStyle = fading
    pen.fillRect(good[0], y, good[1] - good[0], bar)
    pen.save()
    pen.beginPath()
    pen.rect(bad[0], y, bad[1] - bad[0], bar)
    pen.clip()
    pen.fillStyle = rust
    pen.fillRect(bad[0], y, bad[1] - bad[0], bar)
    pen.strokeStyle = sheet
    pen.lineWidth = 1.5
    for (let at = bad[0] - bar; at < bad[1]; at += 6) {
      pen.beginPath()
      pen.moveTo(at, y + bar)
      pen.lineTo(at + bar, y)
      pen.stroke()
    }
    pen.restore()
    pen.strokeStyle = ink
    pen.lineWidth = 1
    pen.strokeRect(x, y, width, bar)
    pen.fillStyle = ink
    pen.fillRect(limit - 1, y - 4, 2, bar + 8)
    text(fieldText(field.from, field, unit), inkSoft, x, y + bar + 16, 'left')
    text(`${fieldText(field.to, field, unit)} and more`, inkSoft, x + width, y + bar + 16, 'right')
  }
}
