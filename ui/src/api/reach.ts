import type { Middleware } from 'openapi-fetch'
import { hearClock } from './clock'
import { setConnection, type Connection } from './connection'
import { notationHeader } from './notation'
import { setOutside } from './outside'
import { Problem } from './problem'
import type { components } from './schema'

type Trouble = Exclude<Connection, 'ok' | 'network'>

/** The script that this page began from: the server knows by it whether the page is of its own version. */
const script = document.querySelector('script[type=module][src]')?.getAttribute('src') ?? ''

/** reachable says with each request what the shop should know of the page, and hears whether it can be reached. */
export const reachable: Middleware = {
  onRequest({ request }) {
    const notation = notationHeader()
    if (notation) request.headers.set('Notation', notation)
    request.headers.set('Page', script)
    return request
  },
  async onResponse({ response }) {
    const now = response.headers.get('Shop-Now')
    if (now) hearClock(now)
    setConnection(response.status === 503 ? await troubleOf(response) : 'ok')
    if (response.status === 401) setOutside(true)
  },
  onError({ request }) {
    if (request.signal.aborted) return // given up by the page itself
    setConnection('network')
    return new Problem(0, 'network', 'The server cannot be reached.', [])
  },
}

/** troubleOf is what is wrong where the shop cannot answer for now. */
async function troubleOf(response: Response): Promise<Trouble> {
  const problem = (await response
    .clone()
    .json()
    .catch(() => undefined)) as components['schemas']['ErrorModel'] | undefined
  if (problem?.type === '/problems/full') return 'full'
  return problem?.type === '/problems/slow' ? 'slow' : 'database'
}
