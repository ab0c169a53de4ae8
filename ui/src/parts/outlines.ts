import type { Tag } from '../api/client'

/** Our own neutral shapes in a box of 48 by 72; no maker's outline. */
const shapes: Record<Tag['outline'] | 'neck' | 'fretboard' | 'frets' | 'cavity', string> = {
  'two-horned':
    'M15 7C9.5 7 8 13 9.5 19C11 25 10 29 7.5 33C5 38 4 43 4 49C4 61 13 68 24 68C35 68 44 61 44 49C44 43 43 38 40.5 33C38 29 37 25 38.5 19C40 13 38.5 7 33 7C30 7 29.5 11 29.5 15V20H18.5V15C18.5 11 18 7 15 7Z',
  'one-horned':
    'M18.5 14C12 13 8 17 9 23C10 28 9.5 31 7.5 35C5 40 4 44 4 50C4 61 13 68 24 68C35 68 44 61 44 50C44 43 42 38 39 33C37 29 37 25 38.5 20C40 14 38 7 34 7C31 7 29.5 11 29.5 15V21H18.5Z',
  slab: 'M18.5 12C12 10 8 14 8.5 21C9 27 9 30 7 35C5 40 4 45 4 51C4 62 13 68 24 68C35 68 44 62 44 51C44 45 43 40 41 35C39 30 39 27 39.5 21C40 14 36 10 29.5 12V19H18.5Z',
  angular: 'M18.5 16L12 6L7 22L11 34L3 52L14 68H34L45 52L37 34L41 22L36 6L29.5 16V21H18.5Z',
  bass: 'M12 3C7 4 7 12 9.5 19C11 25 9.5 29 7 34C4.5 39 3.5 44 4 51C5 62 14 68 25 68C37 68 44 61 44 50C44 43 42 38 39.5 33C37.5 29 37 25 38.5 21C40 15 38 10 34 10C31 10 30 13 30 17V22H19L18.5 14C18 8 16.5 2.5 12 3Z',
  neck: 'M18 3H30L33 14L28 20V68H20V20L15 14Z',
  fretboard: 'M19 6H29L31.5 66H16.5Z',
  frets: 'M12 12H36V16H12ZM12 26H36V30H12ZM12 39H36V43H12ZM12 51H36V55H12ZM12 62H36V66H12Z',
  cavity:
    'M12 22C12 17 16 14 20 14H30C35 14 37 18 36 23L34 32C34 35 37 37 38 42C40 52 34 60 25 60C15 60 9 53 11 43C12 38 14 36 14 32Z',
}

export const shapeOf = (outline: Tag['outline']) => shapes[outline]

/** shapeOfPiece is how a piece is drawn: a body and a whole in their outline, a smaller thing as it is. */
export function shapeOfPiece(piece: string, outline: Tag['outline']) {
  switch (piece) {
    case 'neck':
    case 'fretboard':
    case 'frets':
    case 'cavity':
      return shapes[piece]
  }
  return shapes[outline]
}
