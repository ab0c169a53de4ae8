import * as z from 'zod/mini'
import { forget, readKept, text, type Shape } from './kept'
import { asLate } from './late'
import { store, type Waiting } from './store'

const earlier = z.array(z.looseObject({ entry: z.looseObject({ id: z.string() }) })) as Shape<unknown> as Shape<
  Partial<Waiting>[]
>

/** takeOver brings in what an earlier version kept in local storage. */
export async function takeOver() {
  const old = readKept('outbox', earlier, [])
  const device = readKept('device', text, '')
  const tx = (await store()).transaction(['outbox', 'kept'], 'readwrite')
  if (device !== '' && (await tx.objectStore('kept').get('device')) === undefined) {
    void tx.objectStore('kept').put(device, 'device')
    void tx.objectStore('kept').put(readKept('seq', z.number(), 0), 'deviceSeq')
  }
  for (const o of old) {
    const w = asLate({ ...o, title: '', shop: '', tab: '', tries: 0 } as Waiting)
    await tx.objectStore('outbox').add(w)
  }
  await tx.done
  forget('outbox')
}
