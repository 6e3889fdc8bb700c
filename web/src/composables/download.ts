/** Gives a file to the user; how long the browser is given to take it, in ms. */
export function give(name: string, file: Blob, patience: number): void {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(file)
  link.download = name
  link.click()
  setTimeout(() => URL.revokeObjectURL(link.href), patience)
}

/** Gives a text to the user as a file. */
export const download = (name: string, text: string, type: string): void => give(name, new Blob([text], { type }), 1000)
