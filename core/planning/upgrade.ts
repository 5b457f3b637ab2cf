import { type Joint, mapSteps, type Part, type Step } from '../document/index.ts'
import { upgradedFields, type Versioned, versionOf } from '../fields/index.ts'
import { jointOf } from '../joints/index.ts'
import { treatmentOf } from '../operations/index.ts'
import { shapeOf } from '../shapes/index.ts'

/**
 * A part with the fields of all its shapes, treatments and joints in the version that is known here: whoever opens a part
 * to show, edit or build it opens it with this. What is of a later version is left, and told when it is built.
 */
export function upgraded(part: Part): Part {
  const pieces = part.pieces.map((piece) => {
    const steps = mapSteps(piece.steps, upgradedStep)
    return steps.every((step, i) => step === piece.steps[i]) ? piece : { ...piece, steps }
  })
  const joints = part.joints.map((joint) => upgradedOwner(joint, jointOf(joint.kind)))
  const same = (a: readonly unknown[], b: readonly unknown[]) => a.every((each, i) => each === b[i])
  return same(pieces, part.pieces) && same(joints, part.joints) ? part : { ...part, pieces, joints }
}

function upgradedStep(step: Step): Step {
  const definition = definitionOf(step)
  return step.kind === 'shape' || step.kind === 'treatment' ? upgradedOwner(step, definition) : step
}

function definitionOf(step: Step): Versioned | undefined {
  if (step.kind === 'shape') return shapeOf(step.shape)
  return step.kind === 'treatment' ? treatmentOf(step.operation) : undefined
}

function upgradedOwner<T extends Pick<Joint, 'fields' | 'version'>>(owner: T, definition: Versioned | undefined): T {
  const from = owner.version ?? 1
  if (!definition || from >= versionOf(definition)) return owner
  return { ...owner, fields: upgradedFields(definition, owner.fields, from), version: versionOf(definition) }
}

/** Whether fields are of a later version than the one that is known here. */
export function isLater(owner: Pick<Joint, 'version'>, definition: Versioned | undefined): boolean {
  return definition !== undefined && (owner.version ?? 1) > versionOf(definition)
}
