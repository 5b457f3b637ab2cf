/** What is checked against the description of a part file: apart, since what checks is as large as all that is described. */
export { checkedPart, readPartFile } from '../file.ts'
export { checkKeepable, takeForKeepable } from '../keepable.ts'
