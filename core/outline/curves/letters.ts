import { carried } from '../../plane/index.ts'
import { type FontName, fontField, fonts, letterCurves } from '../../text/index.ts'
import { defineCurve } from './define.ts'

/** Words in an outline: their contours, standing in the middle of their point. */
export const letters = defineCurve({
  kind: 'letters',
  label: 'letters',
  meaning: 'Words as outlines, about a point.',
  icon: 'M3 14 L8 2 L13 14 M5 10 H11',
  points: { least: 1, most: 1 },
  fields: {
    text: {
      kind: 'text',
      label: 'Words',
      default: 'Port',
      most: 60,
      meaning: 'The words; `{wall}` in them stands for a value.',
    },
    font: fontField,
    height: {
      kind: 'length',
      label: 'Cap height',
      default: '8',
      above: 0,
      most: 1000,
      meaning: 'Height of a capital letter.',
    },
    turn: { kind: 'angle', label: 'Turned by', default: '0', meaning: 'Turned about their point.' },
  },
  segments: ([at], _, { text, font, height, turn }) => {
    const rad = (turn * Math.PI) / 180
    const [c, s] = [Math.cos(rad), Math.sin(rad)]
    const { data } = fonts[font as FontName]
    return letterCurves(text, data, { capHeight: height, spacing: 0, align: 'centre' })
      .flat()
      .map((segment) => carried(segment, { origin: at!, u: [c, s], v: [-s, c] }))
  },
})
