/** found reports whether every word that is looked for is in some of the texts; accents and capitals do not matter. */
export function found(looked: string, ...texts: string[]) {
  const plain = (text: string) =>
    text
      .normalize('NFD')
      .replace(/\p{Diacritic}/gu, '')
      .toLowerCase()
  const all = plain(texts.join(' '))
  return plain(looked)
    .split(/\s+/)
    .every((word) => all.includes(word))
}
