/** Where pictures and sounds are asked for. */
let base = '/api/assets/'

/** Where the server has pictures and sounds, by the name of their content. */
export const assetAt = (asset: string): string => base + asset

/** Has pictures and sounds asked for where they can be had of what was handed off; nothing: where all of them are. */
export const assetsFrom = (path?: string): void => void (base = path ?? '/api/assets/')
