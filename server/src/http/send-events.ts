import type { Response } from "express";

/** Begins a stream of server-sent events; the function that it gives sends one "change" for each item that is wanted. */
export function sendEvents<Item>(response: Response, isWanted: (item: Item) => boolean): (item: Item) => void {
  response.set({ "Content-Type": "text/event-stream", "Cache-Control": "no-store", Connection: "keep-alive" });
  response.flushHeaders();
  return (item) => {
    if (isWanted(item)) response.write(`event: change\ndata: ${JSON.stringify(item)}\n\n`);
  };
}
