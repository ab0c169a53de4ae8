import { useDoor, type Role } from '../../api/door'
import { setOwnNotation, useOwnNotation } from '../../api/notation'
import { queries } from '../../api/queries'
import { setKeysAct, useKeysAct } from '../../frame/keys'
import { setTheme, useTheme } from '../../frame/theme'
import { Choice } from '../../parts/fields/Choice'
import { Tick } from '../../parts/fields/Tick'
import { useNotation } from '../../parts/notation'
import { Untrusted } from '../../parts/Untrusted'
import { roleWords } from './roles'
import { NotationFields } from '../../parts/fields/NotationFields'

/** DevicePanel is how this device shows the shop; nothing in it is sent anywhere. */
export function DevicePanel() {
  const own = useOwnNotation()
  const now = useNotation()
  const keys = useKeysAct()
  const theme = useTheme()
  const door = useDoor().data
  const write = (next: typeof own) => {
    setOwnNotation(next)
    void queries.invalidateQueries() // every figure on screen comes written from the shop
  }
  return (
    <section className="panel p-4" aria-labelledby="device-head" data-device>
      <h2 id="device-head" className="name mb-3 text-xl">
        This device
      </h2>
      {door?.paired && (
        <p className="mb-3">
          It is <b>{door.device}</b>, and {roleWords[door.role as Role]}.
        </p>
      )}
      <div className="grid gap-3">
        <Choice
          label="Theme"
          value={theme}
          options={[
            { id: 'day', text: 'Day' },
            { id: 'night', text: 'Night' },
          ]}
          onChange={(next) => setTheme(next === 'night' ? 'night' : 'day')}
        />
        <Tick label="Single keys act here" on={keys} onChange={setKeysAct} />
        <Tick
          label="Figures are written as the shop has them"
          on={own === null}
          onChange={(shops) => write(shops ? null : now)}
        />
        {own && <NotationFields legend="How figures are written here" value={own} onChange={write} />}
      </div>
      {door && <Untrusted door={door} />}
    </section>
  )
}
