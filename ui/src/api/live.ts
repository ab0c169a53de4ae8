import { refresh } from './fresh'

/** Notice counts what anybody changed, what was worked out in the background, and what the shop decided about itself. */
interface Notice {
  revision: number
  thought: number
  settings: number
}

/** What the tab that has the stream tells the others. */
type Told = { notice: Notice } | { beat: true } | { lost: true }

/** A stream that has been silent for so long is dead, whatever the browser thinks; it beats every ten seconds. */
const silentFor = 25_000
const againAfter = 1500
const name = 'umberfrost-live'

/** One tab of a browser holds the stream, for a browser opens few at a time; the others hear from it. */
const channel = 'BroadcastChannel' in window ? new BroadcastChannel(name) : undefined
let source: EventSource | undefined
let leading: (() => void) | undefined
let heard = 0
let last: Notice | undefined
let lost = false

/**
 * startLive keeps what is on screen up to date: a change made anywhere is fetched as soon as the
 * shop tells of it. After sleep, a lost network or a restarted server the stream begins with the last
 * notice, which shows whether anything was missed.
 */
export function startLive() {
  heard = Date.now()
  if (channel) channel.onmessage = (e: MessageEvent<Told>) => listen(e.data)
  begin()
  window.setInterval(watch, 5000)
  window.addEventListener('online', () => leading && open())
  document.addEventListener('visibilitychange', () => {
    if (document.visibilityState === 'visible' && Date.now() - heard > silentFor / 2) watch(silentFor / 2)
  })
  window.addEventListener('pagehide', resign)
  window.addEventListener('pageshow', (e) => e.persisted && begin())
}

/** begin waits for its turn to hold the stream; a tab that is closed passes it on. */
function begin(steal = false) {
  if (!channel || !navigator.locks) return open()
  const lead = () =>
    new Promise<void>((over) => {
      leading = over
      open()
    })
  navigator.locks.request(name, { steal }, lead).catch(() => {
    // Another tab took the stream, for nothing came from here.
    resign()
    begin()
  })
}

function resign() {
  source?.close()
  source = undefined
  leading?.()
  leading = undefined
}

/** watch takes the stream over, or opens it anew, where it has been silent for too long. */
function watch(most: unknown = silentFor) {
  if (Date.now() - heard <= (typeof most === 'number' ? most : silentFor)) return
  heard = Date.now()
  if (leading || !channel) open()
  else begin(true)
}

function tell(what: Told) {
  channel?.postMessage(what)
  listen(what)
}

function listen(what: Told) {
  heard = Date.now()
  if ('notice' in what) hear(what.notice)
  if ('lost' in what && !lost) {
    lost = true
    refresh('shop') // asking at once shows whether only the stream is gone, or the server
  }
}

function open() {
  source?.close()
  heard = Date.now()
  const stream = new EventSource('/api/events')
  source = stream
  stream.addEventListener('shop', (e: MessageEvent<string>) => tell({ notice: JSON.parse(e.data) as Notice }))
  stream.addEventListener('beat', () => tell({ beat: true }))
  stream.onerror = () => {
    tell({ lost: true })
    // A refused stream is not tried again by the browser itself.
    if (stream.readyState === EventSource.CLOSED && source === stream) window.setTimeout(retry, againAfter, stream)
  }
}

function retry(stream: EventSource) {
  if (source === stream) open()
}

function hear(notice: Notice) {
  if (lost || last === undefined || notice.revision !== last.revision) refresh('shop')
  if (lost || last === undefined || notice.thought !== last.thought) refresh('thought')
  if (lost || (last !== undefined && notice.settings !== last.settings)) refresh('settings')
  last = notice
  lost = false
}
