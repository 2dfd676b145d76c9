/** Where the newest of something that others change comes from, and where it goes. */
interface Newest<Value extends { readonly revision: number }> {
  /** What is here now; null where nothing may be taken over, because something is unsaved. */
  readonly here: () => { readonly revision: number; readonly document: unknown } | null;
  readonly ask: () => Promise<Value>;
  readonly take: (newest: Value) => void;
}

/**
 * Takes over what others save, one question at a time. A revision that is heard of while an answer
 * is on its way is asked for behind it: answers that cross would leave the older one standing.
 */
export class FollowNewest<Value extends { readonly revision: number }> {
  readonly #source: Newest<Value>;
  #heardOf = 0;
  #asking: Promise<void> | null = null;

  constructor(source: Newest<Value>) {
    this.#source = source;
  }

  /** Another window or program saved this revision. */
  async hear(revision: number): Promise<void> {
    this.#heardOf = Math.max(this.#heardOf, revision);
    // What is unsaved here meets the other one at the server, and both become one there.
    if (revision > (this.#source.here()?.revision ?? Number.POSITIVE_INFINITY)) await this.look();
  }

  /** Asks whether there is something newer, in case that nothing was heard of it. */
  async look(): Promise<void> {
    this.#asking ??= this.#catchUp().finally(() => {
      this.#asking = null;
    });
    await this.#asking;
  }

  /** Another show is open: what was heard of the one before counts no more. */
  forget(): void {
    this.#heardOf = 0;
  }

  async #catchUp(): Promise<void> {
    const { here, ask, take } = this.#source;
    for (let before = here(); before; before = here()) {
      const heardBefore = this.#heardOf;
      const newest = await ask();
      const now = here();
      // Where something was edited meanwhile, this is the answer to an older question.
      const isLate = now !== null && now.document !== before.document;
      if (now && !isLate && newest.revision > now.revision) take(newest);
      const isNewerHeardOf = this.#heardOf > Math.max(heardBefore, newest.revision);
      if (!isLate && !isNewerHeardOf) return;
    }
  }
}
