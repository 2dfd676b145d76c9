import type { LiveEvent } from "@humming-tide/contract";
import { useEffect, useState } from "react";
import { listenLive } from "./live-wire.ts";

interface Listed {
  readonly id: string;
  readonly createdAt: string;
}

/**
 * A list of the server's, the newest first: read once and whenever the stream begins again, and
 * kept up to date by its events. `read` and `itemOf` are the same functions while the list is the
 * same.
 */
export function useLiveList<Item extends Listed>(
  read: () => Promise<readonly Item[]>,
  itemOf: (event: LiveEvent) => Item | null,
): readonly Item[] {
  const [items, setItems] = useState<ReadonlyMap<string, Item>>(new Map());
  useEffect(() => {
    let isOpen = true;
    const readAgain = (): void => {
      read().then(
        (list) => isOpen && setItems(new Map(list.map((item) => [item.id, item]))),
        // The server is away; it is read again when the stream is back.
        () => undefined,
      );
    };
    readAgain();
    const stop = listenLive((event) => {
      const item = itemOf(event);
      if (event.kind === "connected") readAgain();
      else if (item) setItems((known) => new Map(known).set(item.id, item));
    });
    return () => {
      isOpen = false;
      stop();
    };
  }, [read, itemOf]);
  return [...items.values()].sort((a, b) => (a.createdAt < b.createdAt ? 1 : -1));
}
