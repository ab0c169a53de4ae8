/** What is kept on this device: it survives a reload and a crash. */
export function readKept<T>(key: string, otherwise: T): T {
  try {
    const text = localStorage.getItem('umberfrost.' + key)
    return text === null ? otherwise : (JSON.parse(text) as T)
  } catch {
    return otherwise
  }
}

export function keep(key: string, value: unknown) {
  try {
    localStorage.setItem('umberfrost.' + key, JSON.stringify(value))
  } catch {
    // A full or forbidden store costs only the safety net.
  }
}

/** setAside keeps what cannot be read under another name, out of the way. */
export function setAside(key: string) {
  const text = localStorage.getItem('umberfrost.' + key)
  if (text === null) return
  localStorage.setItem(`umberfrost.${key}.broken`, text)
  forget(key)
}

export function forget(key: string) {
  localStorage.removeItem('umberfrost.' + key)
}
