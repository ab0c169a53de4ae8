import { held } from './held'

/**
 * Connection is whether the shop can be reached, or what is in the way: the network; its database does not answer, or
 * has no room left; another change takes long.
 */
export type Connection = 'ok' | 'network' | 'database' | 'full' | 'slow'

const connection = held<Connection>('ok')

export const setConnection = connection.set
/** onConnection calls whenever it changes. */
export const onConnection = connection.on
export const useConnection = connection.use
