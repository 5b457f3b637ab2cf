import Joi from 'joi'
import type { Described, Form } from './described.ts'
import { itemFormats, partFormat } from './format.ts'

/** Whether what is read is as it was described; each check is made when it is first asked for. */

const strictly = { convert: false, abortEarly: true, errors: { wrap: { label: false } } } as const

const made = new Map<Described<unknown>, Joi.Schema>()
function schemaOf(described: Described<unknown>): Joi.Schema {
  const known = made.get(described) ?? checkOf(described.form).prefs(strictly)
  made.set(described, known)
  return known
}

/** The structure of a part file of the current version. What a step's fields mean is checked when the step is built. */
export const partSchema = (): Joi.Schema => schemaOf(partFormat)

/** What the lists of a part hold, each by itself. */
export const itemSchema = (item: keyof typeof itemFormats): Joi.Schema => schemaOf(itemFormats[item])

function checkOf(form: Form): Joi.Schema {
  switch (form.kind) {
    case 'record': {
      const members = Object.entries(form.members).map(([name, { form: member, ...more }]) => {
        const schema = checkOf(member)
        return [name, 'optional' in more ? schema : schema.required()]
      })
      return Joi.object(Object.fromEntries(members))
    }
    case 'list': {
      let schema = Joi.array().items(checkOf(form.item)).max(form.most)
      if (form.least !== undefined) schema = schema.min(form.least)
      return form.distinct === undefined ? schema : schema.unique(form.distinct)
    }
    case 'just':
      return Joi.array().items(checkOf(form.item)).length(form.count)
    case 'oneOf':
      return Joi.valid(...form.values)
    case 'anyOf':
      return Joi.alternatives().try(...form.forms.map(checkOf))
    case 'byKind': {
      const cases = Object.entries(form.variants).map(([kind, variant]) => ({ is: kind, then: checkOf(variant) }))
      const refused = Joi.forbidden().messages({ 'any.unknown': `{#label} must be ${form.otherwise}` })
      return Joi.alternatives().conditional(`.${form.key}`, {
        switch: [...cases.slice(0, -1), { ...cases.at(-1)!, otherwise: refused }],
      })
    }
    case 'table':
      return Joi.object()
        .pattern(form.key instanceof RegExp ? form.key : checkOf(form.key), checkOf(form.value))
        .max(form.most)
    case 'flag':
      return Joi.boolean()
    case 'date':
      return Joi.string().isoDate()
    case 'number': {
      let schema = form.whole ? Joi.number().integer() : Joi.number()
      if (form.least !== undefined) schema = schema.min(form.least)
      if (form.above !== undefined) schema = schema.greater(form.above)
      return form.most === undefined ? schema : schema.max(form.most)
    }
    case 'text': {
      const schema = form.least ? Joi.string().min(form.least) : Joi.string().allow('')
      return form.most === undefined ? schema : schema.max(form.most)
    }
    case 'textLike': {
      let schema = Joi.string().pattern(form.pattern)
      if (form.most !== undefined) schema = schema.max(form.most)
      return form.told === undefined ? schema : schema.messages({ 'string.pattern.base': `{#label} ${form.told}` })
    }
    case 'orEmpty':
      return checkOf(form.form).allow('')
    case 'again':
      return Joi.link(`#${form.name}`)
    case 'named':
      return checkOf(form.form).id(form.name)
  }
}
