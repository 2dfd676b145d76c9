/** What can go wrong with the services, on demand: the next time that it could happen, it does. */
export const TROUBLES = {
  "video-away": "The video site answers nothing for three requests",
  "video-signed-out": "The video site ends the session",
  "video-chunk-lost": "A chunk is lost half way",
  "video-processing-fails": "The video site cannot process the film",
  "payment-away": "The payment service answers nothing once",
  "disc-write-fails": "The drive stops half way through the disc",
  "disc-verify-fails": "A byte on the disc is wrong",
} as const;
export type Trouble = keyof typeof TROUBLES;

export const isTrouble = (name: string): name is Trouble => Object.hasOwn(TROUBLES, name);

export class Troubles {
  readonly #waiting = new Map<Trouble, number>();

  /** It happens so many times from now on. */
  ask(trouble: Trouble, times = 1): void {
    this.#waiting.set(trouble, times);
  }

  waits(trouble: Trouble): boolean {
    return (this.#waiting.get(trouble) ?? 0) > 0;
  }

  /** Whether it happens now; then it has happened. */
  happens(trouble: Trouble): boolean {
    const times = this.#waiting.get(trouble) ?? 0;
    if (times > 0) this.#waiting.set(trouble, times - 1);
    return times > 0;
  }
}
