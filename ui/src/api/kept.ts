import * as z from 'zod/mini'

/** Shape is what something kept has to look like to be used again. */
export type Shape<T> = z.ZodMiniType<T, unknown>

/** What is kept on this device survives a reload and a crash. What has another shape, from another version or broken, is put aside. */
export function readKept<T>(key: string, shape: Shape<T>, otherwise: T): T {
  const text = read(key)
  if (text === null) return otherwise
  try {
    return z.parse(shape, JSON.parse(text))
  } catch {
    setAside(key, text)
    return otherwise
  }
}

function read(key: string) {
  try {
    return localStorage.getItem('umberfrost.' + key)
  } catch {
    return null // a forbidden store
  }
}

export function keep(key: string, value: unknown) {
  try {
    localStorage.setItem('umberfrost.' + key, JSON.stringify(value))
  } catch {
    // A full or forbidden store costs only the safety net.
  }
}

/** setAside keeps what cannot be read under another name, out of the way: somebody may want to look. */
function setAside(key: string, text: string) {
  try {
    localStorage.setItem(`umberfrost.${key}.broken`, text)
  } catch {
    // It is broken anyway.
  }
  forget(key)
}

export function forget(key: string) {
  try {
    localStorage.removeItem('umberfrost.' + key)
  } catch {
    // A forbidden store has nothing to forget.
  }
}

/** Shapes that several have. */
export const text = z.string()
export const yesNo = z.boolean()
