import type { ReactNode } from 'react'
import type { Paint, RegionLook } from '../../api/client'
import type { Frame } from './frame'

export interface CoverProps {
  region: RegionLook
  frame: Frame
  fill: string
  opacity?: number
}

/** Cover covers a region: a band along the edge is a line of twice its width, of which the inner half shows. */
export function Cover({ region, frame, fill, opacity }: CoverProps) {
  if (region.bandMm) {
    return (
      <path
        d={frame.rim}
        transform={frame.rimTransform}
        fill="none"
        stroke={fill}
        strokeWidth={2 * region.bandMm}
        strokeDasharray={region.alongMm ? `${region.alongMm} 99999` : undefined}
        opacity={opacity}
      />
    )
  }
  if (region.path) {
    return (
      <path
        d={region.path}
        transform={`translate(${frame.origin[0]} ${frame.origin[1]})`}
        fill={region.hole ? 'var(--panel)' : fill}
        stroke={region.hole ? fill : undefined}
        strokeWidth={region.hole ? 6 : undefined}
        fillRule="evenodd"
        opacity={opacity}
      />
    )
  }
  return <path d={frame.rim} transform={frame.rimTransform} fill={fill} fillRule="evenodd" opacity={opacity} />
}

/** PaintedProps is a paint on its region. */
export interface PaintedProps extends Omit<CoverProps, 'fill'> {
  paint: Paint
  id: string
}

interface PatternedProps extends Omit<CoverProps, 'fill'> {
  id: string
  size: readonly [number, number]
  children: ReactNode
}

/** Patterned covers a region with a pattern. */
export function Patterned({ id, size, children, ...at }: PatternedProps) {
  return (
    <>
      <pattern id={id} patternUnits="userSpaceOnUse" width={size[0]} height={size[1]}>
        {children}
      </pattern>
      <Cover {...at} fill={`url(#${id})`} />
    </>
  )
}
