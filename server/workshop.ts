import { itemSchema } from '@makrel/core/document'
import {
  type KeptThing,
  sameThing,
  shippedMaterials,
  shippedPrinters,
  type WorkshopKind,
  type WorkshopThings,
  workshopKinds,
} from '@makrel/core/fits'
import type { FastifyInstance } from 'fastify'
import Joi from 'joi'
import { DataTypes, type Model, type ModelStatic, type Sequelize } from 'sequelize'
import { type Scope, scopeOf } from './scope.ts'
import type { Writes } from './writes.ts'

type Thing = WorkshopThings[WorkshopKind]

interface ThingRow {
  readonly kind: WorkshopKind
  readonly id: string
  readonly owner: string
  readonly name: string
  readonly revision: number
  /** JSON */
  readonly thing: string
  /** JSON: earlier states, the latest first */
  readonly formerly: string
  readonly removedAt: Date | null
  readonly createdAt: Date
  readonly updatedAt: Date
}
type Row = Model<ThingRow, Partial<ThingRow>> & ThingRow

/** So many earlier states are known: parts that carry one of them follow what it became. */
const keptStates = 50
/** More printers or materials than any workshop has. */
const mostThings = 500

export const shippedThings: { readonly [K in WorkshopKind]: readonly WorkshopThings[K][] } = {
  printers: shippedPrinters,
  materials: shippedMaterials,
}

export type ThingOutcome =
  | { readonly kind: 'kept'; readonly revision: number; readonly updatedAt: string }
  | { readonly kind: 'missing' | 'taken' | 'full' }
  | { readonly kind: 'stale'; readonly current: KeptThing<Thing> }

/** The printers and materials of a workshop. */
export class WorkshopStore {
  readonly #rows: ModelStatic<Row>
  readonly #writes: Writes

  constructor(database: Sequelize, writes: Writes) {
    this.#rows = database.define<Row>('workshop_thing', {
      kind: { type: DataTypes.STRING, primaryKey: true },
      id: { type: DataTypes.STRING, primaryKey: true },
      owner: { type: DataTypes.STRING, primaryKey: true },
      name: DataTypes.STRING,
      revision: DataTypes.INTEGER,
      thing: DataTypes.TEXT,
      formerly: DataTypes.TEXT,
      removedAt: DataTypes.DATE,
      createdAt: DataTypes.DATE,
      updatedAt: DataTypes.DATE,
    })
    this.#writes = writes
  }

  /** In the order in which they came. */
  async list(kind: WorkshopKind, { owner }: Scope): Promise<KeptThing<Thing>[]> {
    const rows = await this.#rows.findAll({
      where: { kind, owner, removedAt: null },
      order: [
        ['createdAt', 'ASC'],
        ['id', 'ASC'],
      ],
    })
    return rows.map(keptThing)
  }

  /** Asked again for what was kept already, as where an answer was lost, it is kept. */
  add(kind: WorkshopKind, thing: Thing, { owner }: Scope): Promise<ThingOutcome> {
    return this.#writes.write(async (transaction): Promise<ThingOutcome> => {
      const { id, name } = thing
      const there = await this.#rows.findOne({ where: { kind, id, owner }, transaction })
      if (there) {
        const same = there.removedAt === null && there.revision === 1 && there.thing === JSON.stringify(thing)
        return same ? keptAs(there) : { kind: 'taken' }
      }
      if ((await this.#rows.count({ where: { kind, owner }, transaction })) >= mostThings) return { kind: 'full' }
      const row = await this.#rows.create(
        { kind, id, owner, name, revision: 1, thing: JSON.stringify(thing), formerly: '[]' },
        { transaction },
      )
      return keptAs(row)
    })
  }

  /** A new state, if `base` is still the latest revision. */
  change(kind: WorkshopKind, base: number, thing: Thing, { owner }: Scope): Promise<ThingOutcome> {
    return this.#writes.write(async (transaction): Promise<ThingOutcome> => {
      const row = await this.#rows.findOne({ where: { kind, id: thing.id, owner, removedAt: null }, transaction })
      if (!row) return { kind: 'missing' }
      const kept = keptThing(row)
      if (sameThing(kept.thing, thing)) return keptAs(row)
      if (row.revision !== base) return { kind: 'stale', current: kept }
      const formerly = [kept.thing, ...kept.formerly.filter((was) => !sameThing(was, thing))].slice(0, keptStates)
      await row.update(
        { name: thing.name, revision: base + 1, thing: JSON.stringify(thing), formerly: JSON.stringify(formerly) },
        { transaction },
      )
      return keptAs(row)
    })
  }

  /** Takes it off the list, or puts it back; false where there is none. */
  setRemoved(kind: WorkshopKind, id: string, removed: boolean, { owner }: Scope): Promise<boolean> {
    return this.#writes.write(async (transaction) => {
      const row = await this.#rows.findOne({ where: { kind, id, owner }, transaction })
      if (!row || (row.removedAt !== null) === removed) return false
      await row.update({ removedAt: removed ? new Date() : null }, { transaction })
      return true
    })
  }
}

function keptThing({ thing, revision, formerly, updatedAt }: Row): KeptThing<Thing> {
  return { thing: JSON.parse(thing), revision, formerly: JSON.parse(formerly), updatedAt: updatedAt.toISOString() }
}

function keptAs({ revision, updatedAt }: Row): ThingOutcome {
  return { kind: 'kept', revision, updatedAt: updatedAt.toISOString() }
}

const schemas = { printers: itemSchema('printer'), materials: itemSchema('material') } as const
const words = { printers: 'printer', materials: 'material' } as const

export async function workshopRoutes(app: FastifyInstance, store: WorkshopStore): Promise<void> {
  for (const kind of workshopKinds) {
    const word = words[kind]
    const thing = schemas[kind].required().label(word)
    const params = Joi.object({ id: Joi.string().max(64).required() })
    const missing = { error: `There is no such ${word} here.` }
    app.get(`/api/${kind}`, (request) => store.list(kind, scopeOf(request)))

    app.post<{ Body: { thing: Thing } }>(
      `/api/${kind}`,
      { schema: { body: Joi.object({ thing }).label('The body').required() } },
      async (request, reply) => {
        const outcome = await store.add(kind, request.body.thing, scopeOf(request))
        if (outcome.kind === 'kept') return reply.code(201).send(outcome)
        const error =
          outcome.kind === 'full'
            ? `There are ${mostThings} ${kind} here, which is as many as can be kept.`
            : `There is already a ${word} with this id here.`
        return reply.code(409).send({ error })
      },
    )

    app.put<{ Params: { id: string }; Body: { base: number; thing: Thing } }>(
      `/api/${kind}/:id`,
      {
        schema: {
          params,
          body: Joi.object({ base: Joi.number().integer().min(1).required(), thing })
            .label('The body')
            .required(),
        },
      },
      async (request, reply) => {
        const { base, thing: changed } = request.body
        if (changed.id !== request.params.id)
          return reply.code(400).send({ error: `The ${word} has another id than its address.` })
        const outcome = await store.change(kind, base, changed, scopeOf(request))
        if (outcome.kind === 'kept') return outcome
        if (outcome.kind === 'stale')
          return reply
            .code(409)
            .send({ error: `This ${word} was changed elsewhere since it was opened.`, current: outcome.current })
        return reply.code(404).send(missing)
      },
    )

    app.delete<{ Params: { id: string } }>(`/api/${kind}/:id`, { schema: { params } }, async (request, reply) => {
      if (!(await store.setRemoved(kind, request.params.id, true, scopeOf(request))))
        return reply.code(404).send(missing)
      return reply.code(204).send()
    })

    app.post<{ Params: { id: string } }>(`/api/${kind}/:id/restore`, { schema: { params } }, async (request, reply) => {
      if (!(await store.setRemoved(kind, request.params.id, false, scopeOf(request))))
        return reply.code(404).send(missing)
      return reply.code(204).send()
    })
  }
}
