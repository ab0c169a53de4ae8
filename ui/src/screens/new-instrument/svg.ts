/** pathOfSvg is the data of the first path in an SVG file. The file is read as text: nothing in it runs or loads. */
export function pathOfSvg(text: string): string | undefined {
  const drawn = new DOMParser().parseFromString(text, 'image/svg+xml')
  return drawn.querySelector('path[d]')?.getAttribute('d')?.trim() || undefined
}
