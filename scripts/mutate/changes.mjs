// What the mutation run may change in core, and where.
import { readdirSync, readFileSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { parseAst } from 'vite'

/** What one sign becomes. Each must stand between blanks, as the formatter leaves it, so that no type or text is meant. */
const changes = [
  [/ < (?=[^>]*$)/g, ' <= '],
  [/ <= /g, ' < '],
  [/ > (?!=)/g, ' >= '],
  [/ >= /g, ' > '],
  [/ === /g, ' !== '],
  [/ !== /g, ' === '],
  [/ \+ /g, ' - '],
  [/ - /g, ' + '],
  [/ \* /g, ' / '],
  [/ \/ /g, ' * '],
  [/ && /g, ' || '],
  [/ \|\| /g, ' && '],
  [/Math\.min\(/g, 'Math.max('],
  [/Math\.max\(/g, 'Math.min('],
  [/Math\.sin\(/g, 'Math.cos('],
  [/\? -1 : 1/g, '? 1 : -1'],
]
/**
 * A comparison of sizes is turned round as a whole: that one is met to the last digit, which is all that `<` and `<=` differ in,
 * does not happen. Of what is counted it does.
 */
const turned = { '<': ' >= ', '<=': ' > ', '>': ' <= ', '>=': ' < ' }
/** What is counted, right before or behind the sign, or anywhere in the head of a loop. */
const counted = /^\s*for \(|(\.length|[cC]ount|indexOf\(.*\)|\b[ijkmn]) $|^(\w+\.length|[cC]ount|[ijkmn]\b|[1-9]\b)/

/** What is next to nothing beside a sign, as slack for rounding: which way it goes, no number of a part can tell. */
const slack = /^(\(1 [-+] )?[\d.]*e-([5-9]|\d\d)\b/

/** Lines that hold no arithmetic: words, types, imports. */
const skipped =
  /^\s*(\*|\/\/|\/\*|import |export \*|export type|export interface|readonly |type |interface |['"`])|['"`].* [-+*/<>|&=!]+ .*['"`]|=>\s*string/

function sources(folder) {
  return readdirSync(folder).flatMap((name) => {
    const path = join(folder, name)
    if (name === 'testing' || name === 'node_modules') return []
    if (statSync(path).isDirectory()) return sources(path)
    return name.endsWith('.ts') && !name.endsWith('.test.ts') ? [path] : []
  })
}

/** Every node of a syntax tree. */
function* nodesOf(node) {
  if (typeof node?.type === 'string') yield node
  for (const child of Array.isArray(node) ? node : Object.values(node))
    if (child && typeof child === 'object') yield* nodesOf(child)
}

/** Whether the sign at that place of the text is what this node computes with. */
function computesAt(node, at) {
  if (node.type === 'CallExpression') return node.start === at
  if (node.type === 'ConditionalExpression') return node.test.end <= at && at < node.consequent.start
  return 'left' in node && 'right' in node && node.left.end <= at && at < node.right.start
}

/** The smallest expression that the sign there is of, as [from, to) in the text; none in a text or a type. */
function expressionAt(text, at) {
  const found = [...nodesOf(parseAst(text, { lang: 'ts' }))].filter((node) => computesAt(node, at))
  const smallest = found.sort((a, b) => a.end - a.start - (b.end - b.start))[0]
  return smallest && { from: smallest.start, to: smallest.end }
}

/** All places of core that could be changed: the file, the line, which sign there, what it becomes. */
function placesIn(root) {
  return sources(join(root, 'core')).flatMap((file) => {
    let start = 0
    return readFileSync(file, 'utf8')
      .split('\n')
      .flatMap((line, number) => {
        const begins = start
        start += line.length + 1
        if (skipped.test(line)) return []
        return changes.flatMap(([from, to]) =>
          [...line.matchAll(from)].flatMap(({ index, 0: sign }) => {
            const [before, behind] = [line.slice(0, index + 1), line.slice(index + sign.length)]
            if (/ [-+*/] /.test(sign) && slack.test(behind)) return []
            const isCounted = counted.test(before) || counted.test(behind)
            return [{ file, number, at: begins + index, sign, to: (isCounted ? undefined : turned[sign.trim()]) ?? to }]
          }),
        )
      })
  })
}

/** So many places drawn at random, each with the expression that its sign is of. */
export function chosenChanges(root, count, random) {
  const places = placesIn(root)
  const chosen = []
  while (chosen.length < count && places.length > 0) {
    const [place] = places.splice(Math.floor(random() * places.length), 1)
    const expression = expressionAt(readFileSync(place.file, 'utf8'), place.at)
    if (expression) chosen.push({ ...place, expression })
  }
  return chosen
}

/** The text of its file with the change in it. */
export function changed({ at, sign, to }, text) {
  return text.slice(0, at) + to + text.slice(at + sign.length)
}
