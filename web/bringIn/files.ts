import { useEffect, useState } from 'react'
import { listen } from '../ui/listen.ts'

/** Asks for a file; undefined where none was chosen. */
export function chosenFile(accept: string): Promise<File | undefined> {
  return new Promise((found) => {
    const input = document.createElement('input')
    input.type = 'file'
    input.accept = accept
    input.onchange = () => found(input.files?.[0])
    input.oncancel = () => found(undefined)
    input.click()
  })
}

/** Takes files that are dropped anywhere on the page; whether one is held over it. */
export function useFileDrop(onFile: (file: File) => void): boolean {
  const [over, setOver] = useState(false)
  useEffect(() => {
    const holdsFile = (event: DragEvent) => event.dataTransfer?.types.includes('Files') ?? false
    const hold = (event: DragEvent) => {
      if (!holdsFile(event)) return
      event.preventDefault()
      setOver(true)
    }
    const leave = (event: DragEvent) => {
      if (!event.relatedTarget) setOver(false)
    }
    const drop = (event: DragEvent) => {
      if (!holdsFile(event)) return
      event.preventDefault()
      setOver(false)
      const [file] = event.dataTransfer?.files ?? []
      if (file) onFile(file)
    }
    return listen(window, { dragover: hold, dragleave: leave, drop })
  }, [onFile])
  return over
}
