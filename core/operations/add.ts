import type { BodyOperation } from './define.ts'

export const add: BodyOperation = {
  kind: 'add',
  label: 'Add',
  hint: 'material',
  look: 'more',
  material: 'more',
  acts: 'with-body',
  rest: 'on',
  gathers: true,
  apply({ scope, meant, acting, closed }) {
    const standing = meant()
    const solids = acting.map(({ grown }) => grown)
    return { solid: closed(scope.union(standing ? [standing, ...solids] : solids)), idle: [] }
  },
}
