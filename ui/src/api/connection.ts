import { held } from './held'

/** Connection is whether the shop can be reached: the network, the database, or both are well. */
export type Connection = 'ok' | 'network' | 'database'

const connection = held<Connection>('ok')

export const setConnection = connection.set
/** onConnection calls whenever it changes. */
export const onConnection = connection.on
export const useConnection = connection.use
