export { type FontData, type FontName, fontField, fonts } from './fonts.ts'
export { type Lettering, type LetteringOptions, letterCurves, lettering } from './lettering.ts'
