import type { Wish } from '../../api/client'
import { shown, woodOptions, type FormProps } from './fields'
import { Choice } from '../../parts/fields/Choice'
import { Text } from '../../parts/fields/Text'
import { Tick } from '../../parts/fields/Tick'
import { pieceOf } from './draft'

/** WholeFields are what is wished of the instrument as a whole, and of its smaller parts. */
export function WholeFields(props: FormProps) {
  const { reference, draft, wish } = props
  const fault = shown(props)
  const w = draft.wish
  const set = (part: Partial<Wish>, field: string) => wish({ ...w, ...part }, `wish.${field}`)
  const body = pieceOf(w, 'body')
  const neck = pieceOf(w, 'neck')
  return (
    <fieldset className="space-y-3">
      <legend className="sr-only">The whole and its parts</legend>
      <div className="grid gap-3 sm:grid-cols-2">
        {body && neck && (
          <Choice
            label="Joint"
            value={w.joint ?? 'bolt-on'}
            options={joints}
            onChange={(v) => set({ joint: v as Wish['joint'] }, 'joint')}
          />
        )}
        <Choice
          label="Standard"
          value={w.standard ?? 'sale'}
          options={standards}
          onChange={(v) => set({ standard: v as Wish['standard'] }, 'standard')}
        />
        <Choice
          label="Hands"
          value={w.hand ?? 'practised'}
          options={hands}
          onChange={(v) => set({ hand: v as Wish['hand'] }, 'hand')}
        />
        {neck && (
          <>
            <Choice
              label="Fretboard"
              value={w.board?.wood}
              options={[{ id: '', text: 'none of its own' }, ...woodOptions(reference)]}
              fault={fault('wish.board.wood')}
              onChange={(wood) => set({ board: wood ? { ...w.board, wood, finish: undefined } : undefined }, 'board')}
            />
            {w.board && (
              <Choice
                label="Its finish"
                value={w.board.finish}
                options={[{ id: '', text: 'as is usual for it' }, ...reference.boards]}
                onChange={(finish) =>
                  w.board &&
                  set({ board: { ...w.board, finish: (finish || undefined) as typeof w.board.finish } }, 'board')
                }
              />
            )}
            <Choice
              label="Frets"
              value={w.frets ?? 'none'}
              options={frets}
              onChange={(v) => set({ frets: v as Wish['frets'] }, 'frets')}
            />
            {w.frets && w.frets !== 'none' && (
              <Choice
                label="Fret wire"
                value={w.fretWire ?? 'nickel-silver'}
                options={reference.fretWires}
                onChange={(v) => set({ fretWire: v as Wish['fretWire'] }, 'fretWire')}
              />
            )}
          </>
        )}
        {body && (
          <Choice
            label="Cavities"
            value={w.cavities ?? 'none'}
            options={cavities}
            onChange={(v) => set({ cavities: v as Wish['cavities'] }, 'cavities')}
          />
        )}
      </div>
      <Text
        label="Hardware, pickups and plastics of the whole look"
        value={w.fittings}
        maxLength={200}
        onChange={(fittings) => set({ fittings }, 'fittings')}
      />
      <Tick
        label="Mock up the whole look before colour"
        on={w.mockUp ?? w.standard === 'show'}
        onChange={(mockUp) => set({ mockUp }, 'mockUp')}
      />
    </fieldset>
  )
}

const joints = [
  { id: 'bolt-on', text: 'Bolted on' },
  { id: 'set', text: 'Glued in' },
]
const standards = [
  { id: 'own', text: 'For oneself' },
  { id: 'gift', text: 'A gift' },
  { id: 'sale', text: 'For sale' },
  { id: 'show', text: 'A show piece' },
]
const hands = [
  { id: 'practised', text: 'Practised' },
  { id: 'new', text: 'New to this: film to spare' },
]
const frets = [
  { id: 'none', text: 'No fretwork' },
  { id: 'mirror', text: 'Levelled, to a mirror' },
  { id: 'brushed', text: 'Levelled, brushed' },
]
const cavities = [
  { id: 'none', text: 'As they are' },
  { id: 'paint', text: 'Conductive paint' },
  { id: 'foil', text: 'Foil' },
]
