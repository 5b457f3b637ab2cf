import { type FieldBase, type FieldKindDefinition, holdsNoExpressions } from '../define.ts'

/**
 * Edges of what stands so far, by rules that are kept: "of base/top; inner where boss meets base; less upright". Each adds
 * what it finds, or takes it away again ("less").
 */
export interface EdgesField extends FieldBase {
  readonly kind: 'edges'
}

/** A face of a step, in all its copies; without a face, any of the step's. */
export interface FaceName {
  readonly step: string
  readonly face: string | undefined
}

/** What edges can be beside where they lie; the words of the rules. */
export const edgeTraits = ['outer', 'inner', 'upright', 'level', 'bed'] as const
export type EdgeTrait = (typeof edgeTraits)[number]

export interface EdgeRule {
  /** takes away what it finds */
  readonly less: boolean
  /** all of them must be so */
  readonly traits: readonly EdgeTrait[]
  readonly where:
    | { readonly kind: 'all' }
    /** round a face, or all of a step */
    | { readonly kind: 'of'; readonly of: FaceName }
    /** between two faces */
    | { readonly kind: 'meets'; readonly faces: readonly [FaceName, FaceName] }
    /** where a step ends at others, as a hole does at its rims */
    | { readonly kind: 'rims'; readonly step: string }
    /** one, by its name in the finished solid */
    | { readonly kind: 'edge'; readonly key: string }
}

export const edges: FieldKindDefinition<EdgesField, readonly EdgeRule[]> = {
  mapExpressions: holdsNoExpressions,
  mapReferences(text, { step }) {
    if (!step) return text
    return split(text)
      .map((part) => {
        const rule = edgeRule(part)
        const moved = rule && edgeRuleText({ ...rule, where: movedWhere(rule.where, (id) => step(id) ?? id) })
        return !rule || moved === edgeRuleText(rule) ? part : `${/^\s*/.exec(part)![0]}${moved}`
      })
      .join(';')
  },
  resolve({ label }, text, { tell }) {
    const parts = split(text).filter((part) => part.trim() !== '')
    if (parts.length === 0) return tell('edges-choose', { label })
    const rules: EdgeRule[] = []
    for (const [i, part] of parts.entries()) {
      const rule = edgeRule(part)
      if (!rule) return tell('edges-unread', { number: i + 1, text: part.trim() })
      rules.push(rule)
    }
    return rules
  },
}

function movedWhere(where: EdgeRule['where'], other: (step: string) => string): EdgeRule['where'] {
  const moved = (face: FaceName): FaceName => ({ ...face, step: other(face.step) })
  switch (where.kind) {
    case 'all':
      return where
    case 'of':
      return { ...where, of: moved(where.of) }
    case 'rims':
      return { ...where, step: other(where.step) }
    case 'meets':
      return { ...where, faces: [moved(where.faces[0]), moved(where.faces[1])] }
    case 'edge':
      // Where it lies is told by the faces round it.
      return { ...where, key: where.key.replace(/\bstep\/([^/|]+)\//g, (_, id: string) => `step/${other(id)}/`) }
  }
}

function split(text: string): string[] {
  return text.split(';')
}

/** All rules in a text; those that cannot be read are left out. */
export function edgeRules(text: string): EdgeRule[] {
  return split(text).flatMap((part) => edgeRule(part) ?? [])
}

export function edgeRulesText(rules: readonly EdgeRule[]): string {
  return rules.map(edgeRuleText).join('; ')
}

/** Reads one rule; undefined where it is none. */
function edgeRule(text: string): EdgeRule | undefined {
  let rest = text.trim()
  const taken = (word: string) => {
    if (rest !== word && !rest.startsWith(`${word} `)) return false
    rest = rest.slice(word.length).trim()
    return true
  }
  const less = taken('less')
  const traits: EdgeTrait[] = []
  for (let found: EdgeTrait | undefined = edgeTraits.find(taken); found; found = edgeTraits.find(taken))
    traits.push(found)
  const rule = (where: EdgeRule['where']): EdgeRule => ({ less, traits, where })
  if (rest === 'all' || (rest === '' && traits.length > 0)) return rule({ kind: 'all' })
  if (taken('of')) return rest ? rule({ kind: 'of', of: faceNameOf(rest) }) : undefined
  if (taken('rims')) return rest ? rule({ kind: 'rims', step: rest }) : undefined
  if (taken('edge')) return rest ? rule({ kind: 'edge', key: rest }) : undefined
  if (!taken('where')) return undefined
  const [a, b, ...more] = rest.split(' meets ')
  return a && b && more.length === 0 ? rule({ kind: 'meets', faces: [faceNameOf(a), faceNameOf(b)] }) : undefined
}

/** Reads "step/face", or "step" for any face of it. */
export function faceNameOf(text: string): FaceName {
  const at = text.indexOf('/')
  return at < 0
    ? { step: text.trim(), face: undefined }
    : { step: text.slice(0, at).trim(), face: text.slice(at + 1).trim() }
}

export function faceNameText({ step, face }: FaceName): string {
  return face === undefined ? step : `${step}/${face}`
}

function edgeRuleText({ less, traits, where }: EdgeRule): string {
  const place = traits.length > 0 && where.kind === 'all' ? [] : [whereText(where)]
  return [...(less ? ['less'] : []), ...traits, ...place].join(' ')
}

function whereText(where: EdgeRule['where']): string {
  switch (where.kind) {
    case 'all':
      return 'all'
    case 'of':
      return `of ${faceNameText(where.of)}`
    case 'rims':
      return `rims ${where.step}`
    case 'meets':
      return `where ${where.faces.map(faceNameText).join(' meets ')}`
    case 'edge':
      return `edge ${where.key}`
  }
}
