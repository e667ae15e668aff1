/** Where the file of an asset is. */
export const assetFile = (key: string) => `/api/assets/${key}/file`
