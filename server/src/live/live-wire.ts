import { EventEmitter } from "node:events";
import type { LiveEvent } from "@humming-tide/contract";

/** Everything that changes on the server goes through here, to every browser that listens. */
export class LiveWire {
  readonly #emitter = new EventEmitter<{ event: [LiveEvent] }>();

  constructor() {
    this.#emitter.setMaxListeners(0);
  }

  readonly tell = (event: LiveEvent): void => void this.#emitter.emit("event", event);

  /** Returns the function that ends it. */
  listen(listener: (event: LiveEvent) => void): () => void {
    this.#emitter.on("event", listener);
    return () => void this.#emitter.off("event", listener);
  }

  /** Whether anybody would hear. */
  get isHeard(): boolean {
    return this.#emitter.listenerCount("event") > 0;
  }
}
