/** What a printer and a material can do, and clearances by name. */

export * from './materials.ts'
export * from './onBed.ts'
export * from './printers.ts'
export * from './workshop.ts'
