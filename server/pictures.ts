import { createHash } from 'node:crypto'
import { DataTypes, type Model, type ModelStatic, type Sequelize, type Transaction } from 'sequelize'

interface PictureRow {
  readonly hash: string
  readonly data: string
}
type PictureModel = Model<PictureRow, PictureRow> & PictureRow

const inDocument = /("data": )"(data:image\/(?:png|jpeg);base64,[A-Za-z0-9+/=]+)"/g
/** A kind of its own: a part file has a text there, and can have nothing else. */
const reference = /("data": )\{ "picture": "([0-9a-f]{64})" \}/g

/** The text of a document with references in the place of its pictures, and these by what they are referred to. */
export function withoutPictures(text: string): {
  readonly text: string
  readonly pictures: ReadonlyMap<string, string>
} {
  const pictures = new Map<string, string>()
  const short = text.replace(inDocument, (_, key: string, data: string) => {
    const hash = createHash('sha256').update(data).digest('hex')
    pictures.set(hash, data)
    return `${key}{ "picture": "${hash}" }`
  })
  return { text: short, pictures }
}

/** Pictures that documents hold, each kept once: hundreds of states of a part would have one and the same. */
export class PictureStore {
  readonly #rows: ModelStatic<PictureModel>

  constructor(database: Sequelize) {
    this.#rows = database.define<PictureModel>(
      'kept_picture',
      { hash: { type: DataTypes.STRING, primaryKey: true }, data: DataTypes.TEXT },
      { timestamps: false },
    )
  }

  /** Keeps those that are not kept yet. */
  async put(pictures: ReadonlyMap<string, string>, transaction: Transaction): Promise<void> {
    for (const [hash, data] of pictures)
      await this.#rows.findOrCreate({ where: { hash }, defaults: { hash, data }, transaction })
  }

  /** The text with its pictures in their places again. */
  async whole(text: string, transaction?: Transaction): Promise<string> {
    const hashes = [...new Set([...text.matchAll(reference)].map((match) => match[2]!))]
    if (hashes.length === 0) return text
    const rows = await this.#rows.findAll({ where: { hash: hashes }, ...(transaction ? { transaction } : {}) })
    const byHash = new Map(rows.map(({ hash, data }) => [hash, data]))
    return text.replace(reference, (all, key: string, hash: string) => {
      const data = byHash.get(hash)
      return data === undefined ? all : `${key}"${data}"`
    })
  }
}
