import { type FieldBase, type FieldKindDefinition, holdsNoExpressions } from '../define.ts'

/** Something that was brought in from a file and is kept by its hash. */
export interface AssetField extends FieldBase {
  readonly kind: 'asset'
  readonly of: 'mesh'
}

/** What an asset field comes to. It counts as its hash wherever values are compared or written. */
export class AssetValue {
  readonly hash: string
  readonly name: string
  readonly data: string

  constructor({ hash, name, data }: Pick<AssetValue, 'hash' | 'name' | 'data'>) {
    this.hash = hash
    this.name = name
    this.data = data
  }

  toJSON(): string {
    return this.hash
  }
}

export const asset: FieldKindDefinition<AssetField, AssetValue> = {
  mapExpressions: holdsNoExpressions,
  mapReferences: (text, { asset: other }) => (other && text !== '' ? other(text) : text),
  resolve(_, text, working) {
    const found = working.asset(text)
    return found ?? working.tell(text === '' ? 'asset-choose' : 'asset-missing', {})
  },
}
