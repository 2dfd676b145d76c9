import pLimit, { type LimitFunction } from "p-limit";

/** One at a time for each name: what looks first and then acts must not be overtaken in between. */
export class Doors {
  readonly #doors = new Map<string, LimitFunction>();

  through<T>(name: string, work: () => Promise<T>): Promise<T> {
    let door = this.#doors.get(name);
    if (!door) {
      // Those that nobody stands at are forgotten.
      for (const [other, { activeCount, pendingCount }] of this.#doors)
        if (activeCount + pendingCount === 0) this.#doors.delete(other);
      door = pLimit(1);
      this.#doors.set(name, door);
    }
    return door(work);
  }
}
