/** Problem is an answer of the server that says what was wrong and what would be accepted. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly kind: string,
    detail: string,
    readonly faults: { location: string; message: string; value?: unknown }[],
  ) {
    super(detail)
  }

  /** New: the shop has not said anything about itself yet. */
  get notBegun() {
    return this.kind === '/problems/not-begun'
  }

  /** Outside: the shop does not let this device in. */
  get outside() {
    return this.status === 401
  }

  /** Away: nothing reached the shop's database, and the same may succeed later. */
  get away() {
    return this.status === 0 || this.status >= 502
  }
}
