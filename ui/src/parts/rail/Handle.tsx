import { useDrag } from '@use-gesture/react'
import { DropdownMenu } from 'radix-ui'
import { useRef, useState, type ReactNode } from 'react'
import { createPortal } from 'react-dom'
import type { Tag } from '../../api/client'

export interface Place {
  id: string
  name: string
}

export interface Carrying {
  places: readonly Place[]
  onCarry: (tag: Tag, place: Place) => void
}

/** How far a pointer goes before it carries. */
const carriesFrom = 6

/** Handle is the picture of a piece on its tag: dragged it is carried to another place, tapped it offers the places. */
export function Handle({ tag, places, onCarry, children }: Carrying & { tag: Tag; children: ReactNode }) {
  const [open, setOpen] = useState(false)
  const [at, setAt] = useState<{ x: number; y: number; over?: string }>()
  const dragged = useRef(false)
  const bind = useDrag(
    ({ first, last, tap, canceled, xy: [x, y] }) => {
      if (tap) return
      if (first) dragged.current = true
      const over = placeUnder(x, y)
      setAt(last ? undefined : { x, y, over })
      const to = places.find((p) => p.id === over)
      if (last && !canceled && to && to.id !== tag.placeId) onCarry(tag, to)
    },
    { threshold: carriesFrom, filterTaps: true },
  )
  return (
    <DropdownMenu.Root modal={false} open={open} onOpenChange={setOpen}>
      <span {...bind()} className="touch-none select-none" onDragStart={(e) => e.preventDefault()}>
        <DropdownMenu.Trigger
          className="h-full w-11 cursor-grab touch-none rounded-sm px-1 hover:bg-drying-fill"
          aria-label={`Carry ${tag.name} ${tag.piece} to another place${tag.place ? `, now at ${tag.place}` : ''}`}
          data-carry={`${tag.name} ${tag.piece}`}
          onPointerDown={(e) => {
            e.preventDefault() // it opens with a tap, not as a drag begins
            dragged.current = false
          }}
          onClick={() => {
            if (!dragged.current) setOpen(true)
            dragged.current = false
          }}
        >
          {children}
        </DropdownMenu.Trigger>
      </span>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          collisionPadding={8}
          className="z-40 max-h-(--radix-dropdown-menu-content-available-height) w-64 overflow-y-auto border-t-3 border-umber bg-raised p-1 shadow-lg"
        >
          <DropdownMenu.Label className="px-3 py-1 text-sm text-ink-2">
            {tag.name} {tag.piece}
            {tag.place ? ` is at ${tag.place}. ` : '. '}
            Carry it to
          </DropdownMenu.Label>
          {places
            .filter((p) => p.id !== tag.placeId)
            .map((p) => (
              <DropdownMenu.Item
                key={p.id}
                className="flex min-h-11 cursor-pointer items-center rounded-sm px-3 font-semibold data-highlighted:bg-drying-fill data-highlighted:outline-none"
                onSelect={() => onCarry(tag, p)}
              >
                {p.name}
              </DropdownMenu.Item>
            ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
      {at && createPortal(<InHand tag={tag} places={places} {...at} />, document.body)}
    </DropdownMenu.Root>
  )
}

const placeUnder = (x: number, y: number) =>
  document.elementFromPoint(x, y)?.closest<HTMLElement>('[data-carry-to]')?.dataset.carryTo

/** InHand is a piece that is carried, and the places it may be put down at. */
function InHand({
  tag,
  places,
  x,
  y,
  over,
}: {
  tag: Tag
  places: readonly Place[]
  x: number
  y: number
  over?: string
}) {
  return (
    <>
      <ul
        aria-label="Places"
        className="fixed inset-x-0 bottom-0 z-40 flex flex-wrap justify-center gap-3 border-t-3 border-umber bg-panel p-4 shadow-lg"
      >
        {places.map((p) => (
          <li
            key={p.id}
            data-carry-to={p.id}
            className={`flex min-h-16 min-w-32 items-center justify-center rounded-sm border-2 px-4 font-semibold ${
              over === p.id ? 'border-ready bg-ready-fill text-ready' : 'border-dashed border-ink-3'
            }`}
          >
            <span>
              {p.name}
              {p.id === tag.placeId && <span className="font-normal text-ink-2">, here now</span>}
            </span>
          </li>
        ))}
      </ul>
      <p
        className="pointer-events-none fixed top-0 left-0 z-50 rounded-sm bg-band px-3 py-2 font-semibold text-band-text"
        style={{ transform: `translate(${x + 12}px, ${y - 44}px)` }}
      >
        {tag.name} {tag.piece}
      </p>
    </>
  )
}
