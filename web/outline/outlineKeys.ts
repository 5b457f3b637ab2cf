import { type Key, type KeyList, zoomKeys } from '../keys/keys.ts'
import { removeParts } from './actions.ts'
import { fitAll } from './fit.ts'
import { copySelected, selectAllCurves } from './partsActions.ts'
import { endTool, stepBack } from './press.ts'
import { setTool, useOutline } from './state.ts'
import { mostSides } from './tools/polygon.ts'
import { curveTools, tools } from './tools/registry.ts'
import { zoomed } from './view.ts'

const shelves = ['lines', 'figures', 'change'] as const

/** The keys of an outline: of its tools, and those that take things back or out. */
export const outlineKeys: KeyList = {
  title: 'In an outline',
  keys: [
    {
      keys: ['/'],
      does: 'draw: a tool by its name, with sizes; or the next place: “by 10, 0”, “20 at 30”',
    },
    {
      keys: ['3', '4', '5', '6', '7', '8', '9'],
      with: ['Shift'],
      shown: '3 … 9',
      does: 'while a polygon is drawn: how many sides it has',
      run: ({ key }) => ofPolygon(() => Number(key)),
    },
    {
      keys: ['+', '=', '-'],
      with: ['Shift'],
      shown: '+ −',
      does: 'while a polygon is drawn: more sides, fewer',
      run: ({ key }) => ofPolygon((sides) => Math.min(mostSides, Math.max(3, sides + (key === '-' ? -1 : 1)))),
    },
    ...shelves.map(toolKeys),
    { keys: ['Enter'], does: 'end a curve', run: ended },
    { keys: ['Escape'], does: 'take back the last spot, put the tool away, select nothing', run: stepBack },
    { keys: ['Delete', 'Backspace'], does: 'remove what is selected', run: () => removeParts() },
    {
      keys: ['n'],
      does: 'infer nothing, for as long as it is on',
      run() {
        useOutline.setState(({ refused }) => ({ refused: !refused }))
      },
    },
    {
      keys: ['h'],
      does: 'draw construction lines',
      run() {
        useOutline.setState(({ helper }) => ({ helper: !helper }))
      },
    },
    { keys: ['$mod+a'], does: 'select all curves', run: selectAllCurves },
    { keys: ['$mod+c', '$mod+x', '$mod+v'], does: 'copy, cut and paste what is selected' },
    { keys: ['$mod+d'], does: 'copy it beside itself', run: () => copySelected() },
    ...zoomKeys((times) => {
      const { view } = useOutline.getState()
      useOutline.setState({ view: zoomed(view, times, [view.width / 2, view.height / 2]) })
    }),
    { keys: ['0'], with: ['Shift'], does: 'fit the drawing', run: fitAll },
    { keys: ['ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown'], does: 'shift the drawing', run: panned },
    { keys: [], shown: 'Click with Shift', does: 'select several; a drag over free ground selects what lies in it' },
    { keys: [], shown: 'Right drag, wheel', does: 'shift the drawing; nearer, farther' },
  ],
}

/** The tools of one shelf, each by its own key. */
function toolKeys(shelf: (typeof shelves)[number]): Key {
  const own = [...tools, ...curveTools].filter((tool) => tool.shelf === shelf)
  return {
    keys: own.map(({ key }) => key),
    does: own.map(({ label }) => label).join(', '),
    run({ key }) {
      const held = own.find((tool) => tool.key === key.toLowerCase())!
      const { tool } = useOutline.getState()
      // A line goes on as a bend, and a bend as a line.
      const goesOn = [held.kind, tool].every((kind) => kind === 'line' || kind === 'bend')
      if (goesOn) useOutline.setState({ tool: held.kind, asked: [] })
      else setTool(held.kind)
    },
  }
}

function ofPolygon(next: (sides: number) => number): unknown {
  const { tool, sides } = useOutline.getState()
  if (tool !== 'polygon') return false
  return useOutline.setState({ sides: next(sides) })
}

/** What has the keyboard is pressed by Enter. */
function ended({ target }: KeyboardEvent): unknown {
  if (target instanceof Element && target.closest('button, a')) return false
  return endTool()
}

function panned({ key }: KeyboardEvent): void {
  const [dx, dy] = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[key] as [
    number,
    number,
  ]
  useOutline.setState(({ view }) => ({
    view: { ...view, centre: [view.centre[0] + (dx * 40) / view.scale, view.centre[1] + (dy * 40) / view.scale] },
  }))
}
