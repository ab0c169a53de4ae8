import type { OwnOutline, PieceWish, Tag } from '../../api/client'
import { headstock, shaft, shapeOf, type Drawn } from '../../parts/outlines'

interface Props {
  kind: PieceWish['kind']
  outline: Tag['outline']
  own?: OwnOutline
  colourOf: (region: string) => string
  chosen?: string
  onChoose: (region: string) => void
}

/**
 * RegionDrawing is a piece from the front and, of a body, from the back, with its regions to point at.
 * The buttons beside it do the same by keyboard.
 */
export function RegionDrawing({ kind, outline, own, colourOf, chosen, onChoose }: Props) {
  return kind === 'neck' ? (
    <svg viewBox="0 0 48 72" className="h-[7.5rem] shrink-0" aria-hidden="true">
      <Part name="headstock" drawn={headstock} {...{ colourOf, chosen, onChoose }} />
      <Part name="shaft" drawn={shaft} {...{ colourOf, chosen, onChoose }} />
    </svg>
  ) : (
    <svg viewBox="0 0 104 82" className="h-[8.5rem] shrink-0 max-[359px]:h-24" aria-hidden="true">
      <Side drawn={shapeOf(outline, own)} face="top" {...{ colourOf, chosen, onChoose }} />
      <g transform="translate(104 0) scale(-1 1)">
        <Side drawn={shapeOf(outline, own)} face="back" {...{ colourOf, chosen, onChoose }} />
      </g>
      {['front', 'back'].map((side, i) => (
        <text key={side} x={24 + i * 56} y={79} textAnchor="middle" className="fill-ink-2 text-[9px]">
          {side}
        </text>
      ))}
    </svg>
  )
}

type Pointing = Pick<Props, 'colourOf' | 'chosen' | 'onChoose'>

/** Side is a body from one side: its face, and the sides as a rim round it. */
function Side({ drawn, face, ...pointing }: Pointing & { drawn: Drawn; face: string }) {
  return (
    <>
      <Part name="sides" drawn={drawn} {...pointing} />
      <g transform="translate(24 38) scale(0.82) translate(-24 -38)">
        <Part name={face} drawn={drawn} {...pointing} />
      </g>
    </>
  )
}

function Part({ name, drawn, colourOf, chosen, onChoose }: Pointing & { name: string; drawn: Drawn }) {
  return (
    <path
      d={drawn.path}
      transform={drawn.transform}
      vectorEffect="non-scaling-stroke"
      fill={colourOf(name)}
      className={`cursor-pointer stroke-ink ${chosen === name ? '' : 'hover:brightness-110'}`}
      strokeWidth={chosen === name ? 3 : 1.2}
      data-region={name}
      onClick={() => onChoose(name)}
    />
  )
}
