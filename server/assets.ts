import { createHash } from 'node:crypto'
import { DataTypes, type Model, type ModelStatic, type Sequelize, type Transaction } from 'sequelize'

interface AssetRow {
  readonly hash: string
  readonly data: string
}
type AssetModel = Model<AssetRow, AssetRow> & AssetRow

const inDocument = /("data": )"(data:[a-z]+\/[a-z0-9.+-]+;base64,[A-Za-z0-9+/=]+)"/g
/** A kind of its own: a part file has a text there, and can have nothing else. Once only pictures were kept so. */
const reference = /("data": )\{ "(?:asset|picture)": "([0-9a-f]{64})" \}/g

/** The text of a document with references in the place of its assets, and these by what they are referred to. */
export function withoutAssets(text: string): {
  readonly text: string
  readonly assets: ReadonlyMap<string, string>
} {
  const assets = new Map<string, string>()
  const short = text.replace(inDocument, (_, key: string, data: string) => {
    const hash = createHash('sha256').update(data).digest('hex')
    assets.set(hash, data)
    return `${key}{ "asset": "${hash}" }`
  })
  return { text: short, assets }
}

/** Pictures and meshes that documents hold, each kept once: hundreds of states of a part would have one and the same. */
export class AssetStore {
  readonly #rows: ModelStatic<AssetModel>

  constructor(database: Sequelize) {
    this.#rows = database.define<AssetModel>(
      'kept_picture',
      { hash: { type: DataTypes.STRING, primaryKey: true }, data: DataTypes.TEXT },
      { timestamps: false },
    )
  }

  /** Keeps those that are not kept yet. */
  async put(assets: ReadonlyMap<string, string>, transaction: Transaction): Promise<void> {
    if (assets.size === 0) return
    const where = { hash: [...assets.keys()] }
    const there = new Set(
      (await this.#rows.findAll({ where, attributes: ['hash'], transaction })).map(({ hash }) => hash),
    )
    for (const [hash, data] of assets) if (!there.has(hash)) await this.#rows.create({ hash, data }, { transaction })
  }

  /** By their hashes, those that are kept. */
  async get(hashes: readonly string[], transaction?: Transaction): Promise<ReadonlyMap<string, string>> {
    const rows = await this.#rows.findAll({ where: { hash: [...hashes] }, ...(transaction ? { transaction } : {}) })
    return new Map(rows.map(({ hash, data }) => [hash, data]))
  }

  /** The text with its assets in their places again. */
  async whole(text: string, transaction?: Transaction): Promise<string> {
    const hashes = [...new Set([...text.matchAll(reference)].map((match) => match[2]!))]
    if (hashes.length === 0) return text
    const byHash = await this.get(hashes, transaction)
    return text.replace(reference, (all, key: string, hash: string) => {
      const data = byHash.get(hash)
      return data === undefined ? all : `${key}"${data}"`
    })
  }
}
