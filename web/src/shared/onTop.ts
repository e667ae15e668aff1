import { ApiError } from '@/api/client'
import { tellChange } from './tell'

interface Versioned {
  version: number
}

/**
 * Change something that others may change too. When it has moved on in the meantime, it is read anew and the change
 * is made once more on top; the person is told.
 */
export async function onTop<R extends Versioned, T>(row: R, reread: (row: R) => Promise<R | undefined>, change: (version: number) => Promise<T>): Promise<T> {
  try {
    return await change(row.version)
  } catch (error) {
    if (!(error instanceof ApiError) || error.status !== 409) throw error
    const fresh = await reread(row)
    if (!fresh || fresh.version === row.version) throw error
    const result = await change(fresh.version)
    tellChange('This was changed elsewhere in the meantime. Your change was made on top of it.')
    return result
  }
}
