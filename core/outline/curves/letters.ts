import { line, plus, type Segment } from '../../plane/index.ts'
import { type FontName, fontField, fonts, lettering } from '../../text/index.ts'
import { defineCurve } from './define.ts'

/** Words in an outline: their contours, standing in the middle of their point. */
export const letters = defineCurve({
  kind: 'letters',
  label: 'letters',
  meaning: 'Words as outlines, about a point.',
  drawing: 'M3 14 L8 2 L13 14 M5 10 H11',
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
    const { rings } = lettering(text, fonts[font as FontName].data, {
      capHeight: height,
      spacing: 0,
      align: 'centre',
      fineness: Math.min(0.01, height / 500),
      bend: undefined,
    })
    return rings.flatMap((ring): Segment[] => {
      const placed = ring.map(([x, y]) => plus(at!, [c * x - s * y, s * x + c * y]))
      return placed.map((p, i) => line(p, placed[(i + 1) % placed.length]!))
    })
  },
})
