import { create } from 'zustand'

/** Whether the list of keys and expressions is open. */
export const useHelp = create<{ readonly open: boolean }>()(() => ({ open: false }))
