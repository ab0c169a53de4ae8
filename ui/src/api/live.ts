import { queries } from './queries'

/** Notice counts what anybody changed and what was worked out in the background. */
interface Notice {
  revision: number
  thought: number
}

/** A stream that has been silent for so long is dead, whatever the browser thinks; it beats every ten seconds. */
const silentFor = 25_000
const againAfter = 1500

let source: EventSource | undefined
let heard = 0
let last: Notice | undefined
let lost = false

/**
 * startLive keeps what is on screen up to date: a change made anywhere is fetched as soon as the
 * shop tells of it. After sleep, a lost network or a restarted server the stream begins with the last
 * notice, which shows whether anything was missed.
 */
export function startLive() {
  open()
  window.setInterval(() => {
    if (Date.now() - heard > silentFor) open()
  }, 5000)
  window.addEventListener('online', open)
  document.addEventListener('visibilitychange', () => {
    if (document.visibilityState === 'visible' && Date.now() - heard > silentFor / 2) open()
  })
  window.addEventListener('pagehide', () => source?.close())
}

function open() {
  source?.close()
  heard = Date.now()
  const stream = new EventSource('/api/events')
  source = stream
  stream.addEventListener('shop', (e: MessageEvent<string>) => hear(JSON.parse(e.data) as Notice))
  stream.addEventListener('beat', () => (heard = Date.now()))
  stream.onerror = () => {
    // Asking at once shows whether only the stream is gone, or the server.
    if (!lost) void queries.invalidateQueries()
    lost = true
    // A refused stream is not tried again by the browser itself.
    if (stream.readyState === EventSource.CLOSED && source === stream) window.setTimeout(open, againAfter)
  }
}

function hear(notice: Notice) {
  heard = Date.now()
  const news = lost || last === undefined || notice.revision !== last.revision || notice.thought !== last.thought
  last = notice
  lost = false
  if (news) void queries.invalidateQueries()
}
