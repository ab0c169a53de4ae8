import { held } from './held'

/** Outside is whether the shop has refused this device: it is not paired, or is no more. */
const outside = held(false)

export const setOutside = outside.set
export const useOutside = outside.use
