import { EventEmitter, once } from "node:events";
import type { Worker } from "node:worker_threads";

/**
 * A worker's messages until `isLast` says that it has told how it ended. A worker that dies without
 * that word throws.
 */
export async function* workerMessages<Message>(
  worker: Worker,
  isLast: (message: Message) => boolean,
): AsyncGenerator<Message> {
  const waiting: Message[] = [];
  const wake = new EventEmitter();
  let dead: Error | null = null;
  worker.on("message", (message: Message) => {
    waiting.push(message);
    wake.emit("wake");
  });
  worker.on("error", (error) => {
    dead = error;
    wake.emit("wake");
  });
  worker.on("exit", () => {
    dead ??= new Error("the thread ended without a result");
    wake.emit("wake");
  });
  for (;;) {
    const message = waiting.shift();
    if (message !== undefined) {
      yield message;
      if (isLast(message)) return;
    } else if (dead) {
      throw dead as Error;
    } else {
      await once(wake, "wake");
    }
  }
}
