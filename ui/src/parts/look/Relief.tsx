import { Cover, Patterned, type PaintedProps } from './Cover'

/** Relief is what lies there as a thing of its own: flake, grains, leaf, char, resin, cloth, a mark. */
export function Relief({ paint, first, ...at }: PaintedProps & { first: string }) {
  switch (paint.as) {
    case 'flake':
      return (
        <>
          <Cover region={at.region} frame={at.frame} fill={first} opacity={paint.cover * 0.25} />
          <Patterned {...at} size={[17, 19]} opacity={paint.cover}>
            <path
              d="M2 3l2-2 1 3zM10 2l3 1-2 2zM6 9l2-1 1 3zM14 11l2 1-2 2zM3 15l3 0-1 3zM10 16l2-2 2 2z"
              fill="#fff"
              opacity="0.75"
            />
            <path
              d="M7 4l2 0-1 2zM1 9l2 1-2 1zM11 8l2 1-1 2zM7 14l2 1-1 2zM15 5l1 2-2 0zM15 16l1 2-2 0z"
              fill="#000"
              opacity="0.3"
            />
          </Patterned>
        </>
      )
    case 'particles':
      return (
        <Patterned {...at} size={[31, 29]}>
          <path
            d={dots([
              [4, 5],
              [11, 3],
              [19, 8],
              [27, 4],
              [7, 15],
              [15, 18],
              [24, 16],
              [3, 24],
              [12, 26],
              [21, 25],
              [28, 22],
            ])}
            fill={first}
          />
        </Patterned>
      )
    case 'stencil':
      return (
        <Patterned {...at} size={[84, 96]}>
          <path
            d={`M42 10L66 24V52L42 66L18 52V24ZM42 20L57 29V47L42 56L27 47V29Z${dots([
              [42, 38],
              [10, 82],
              [74, 82],
            ])}`}
            fill={first}
            fillRule="evenodd"
            opacity={paint.cover}
          />
        </Patterned>
      )
    case 'leaf':
      return <Leaf {...at} first={first} seams="M0 0H80M0 0V80" patch="M40 0H80V40H40ZM0 40H40V80H0Z" />
    case 'torn':
      return (
        <Leaf
          {...at}
          first={first}
          seams="M0 22L30 9L58 26L80 8M0 58L26 70L52 52L80 64"
          patch="M0 22L30 9L24 44L0 58ZM58 26L80 8V64L52 52Z"
        />
      )
    default:
      return <Ground {...at} paint={paint} first={first} />
  }
}

/** Ground is what changes the surface itself. */
function Ground({ paint, first, ...at }: PaintedProps & { first: string }) {
  const { region, frame } = at
  switch (paint.as) {
    case 'char':
      return (
        <>
          <Cover region={region} frame={frame} fill={first} opacity={paint.cover} />
          <Patterned {...at} size={[38, 46]}>
            <path
              d="M6 0v14l-4 9v23M19 0l3 12-2 20 1 14M32 0l-3 18 4 10-2 18M6 14h15M20 31h12M3 36h17"
              fill="none"
              stroke="#6b625c"
              strokeWidth="0.9"
            />
          </Patterned>
        </>
      )
    case 'accents':
      return (
        <Patterned {...at} size={[120, 150]} opacity={0.75}>
          <path d="M12 20q22-14 30 6q-10 22-28 16zM78 90q26-18 34 8q-12 26-32 18z" fill={first} opacity="0.7" />
        </Patterned>
      )
    case 'texture':
      return (
        <Patterned {...at} size={[13, 40]} opacity={1.6 * paint.cover}>
          <path d="M2 0q2 20 0 40M7 0q-2 20 0 40M11 0q1 20 0 40" fill="none" stroke={first} strokeWidth="1" />
        </Patterned>
      )
    case 'pour':
      return (
        <>
          <Cover region={region} frame={frame} fill={first} opacity={paint.cover} />
          <Patterned {...at} size={[140, 160]} opacity={0.35}>
            <path
              d="M0 40q40-30 70 0t70 0M0 100q30 26 66 4t74 10M20 140q40-20 80 4"
              fill="none"
              stroke="#fff"
              strokeWidth="9"
              strokeLinecap="round"
            />
          </Patterned>
        </>
      )
    case 'cloth':
      return (
        <>
          <Cover region={region} frame={frame} fill={first} opacity={paint.cover} />
          <Patterned {...at} size={[12, 12]} opacity={0.25}>
            <path d="M0 0H6V6H0ZM6 6H12V12H6Z" fill="#fff" />
          </Patterned>
        </>
      )
    default:
      return (
        <circle
          cx={frame.origin[0] + frame.width / 2}
          cy={frame.origin[1] + frame.length * 0.86}
          r={frame.width * 0.035}
          fill="none"
          stroke={first}
          strokeWidth="3"
        />
      )
  }
}

function Leaf({
  first,
  seams,
  patch,
  ...at
}: Omit<PaintedProps, 'paint'> & { first: string; seams: string; patch: string }) {
  return (
    <>
      <Cover region={at.region} frame={at.frame} fill={first} />
      <Patterned {...at} size={[80, 80]}>
        <path d={patch} fill="#fff" opacity="0.16" />
        <path d={seams} fill="none" stroke="#3a2a12" strokeWidth="0.8" opacity="0.5" />
      </Patterned>
    </>
  )
}

const dots = (at: readonly (readonly [number, number])[]) => at.map(([x, y]) => `M${x} ${y}h1.6v1.6h-1.6z`).join('')
