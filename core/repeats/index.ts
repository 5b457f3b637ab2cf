export { defineRepeat, mostCopies, type RepeatDefinition } from './define.ts'
export { repeatOf, repeats } from './registry.ts'
