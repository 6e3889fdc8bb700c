/** Where the server has pictures and sounds, by the name of their content. */
export const assetAt = (asset: string): string => `/api/assets/${asset}`
