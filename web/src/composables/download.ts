/** Has the browser fetch a file under a name. */
export function fetched(name: string, href: string): void {
  const link = document.createElement('a')
  link.href = href
  link.download = name
  link.click()
}

/** Gives a file to the user; how long the browser is given to take it, in ms. */
export function give(name: string, file: Blob, patience: number): void {
  const href = URL.createObjectURL(file)
  fetched(name, href)
  setTimeout(() => URL.revokeObjectURL(href), patience)
}

/** Gives a text to the user as a file. */
export const download = (name: string, text: string, type: string): void => give(name, new Blob([text], { type }), 1000)
