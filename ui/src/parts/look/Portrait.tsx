import type { OwnOutline, Tag } from '../../api/client'
import { useLooks } from '../../api/queries'
import { Outline } from '../Outline'
import { PieceLook } from './PieceLook'

interface Props {
  instrumentId: string
  piece: string
  outline: Tag['outline']
  own?: OwnOutline
  /** What it is drawn in while its layers are not known. */
  colour: string
  frost: number
  className?: string
}

/** Portrait is a piece as it looks by now; a whole looks like its body. What is smaller is drawn in its colour. */
export function Portrait({ instrumentId, piece, outline, own, colour, frost, className }: Props) {
  const looks = useLooks().data?.get(instrumentId)
  const look = looks?.find((l) => l.piece === (piece === 'whole' ? 'body' : piece))
  return look ? (
    <PieceLook look={look} outline={outline} own={own} frost={frost} className={className} />
  ) : (
    <Outline shape={outline} own={own} piece={piece} colour={colour} frost={frost} className={className} />
  )
}
