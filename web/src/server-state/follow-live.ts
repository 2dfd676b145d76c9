import type { Delivery, ExportJob, LiveEvent } from "@humming-tide/contract";
import { listenLive } from "../live/live-wire.ts";
import type { AppDispatch } from "../store/store.ts";
import { serverState } from "./server-state.ts";

/** Several changes of the shelf in a row are one look. */
const SHELF_AFTER_MS = 400;

/** Keeps what the server knows up to date by its events. Returns the function that ends it. */
export function followLive(dispatch: AppDispatch): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const lookAtShelf = (): void => {
    timer ??= setTimeout(() => {
      timer = undefined;
      dispatch(serverState.util.invalidateTags(["shelf"]));
    }, SHELF_AFTER_MS);
  };
  const stop = listenLive((event) => {
    takeEvent(dispatch, event);
    // A first look is on its way when the stream begins: the list is long, so the second one waits
    // for it.
    if (event.kind === "revision" || event.kind === "shelf" || event.kind === "connected") lookAtShelf();
  });
  return () => {
    clearTimeout(timer);
    stop();
  };
}

function takeEvent(dispatch: AppDispatch, event: LiveEvent): void {
  const { updateQueryData, invalidateTags } = serverState.util;
  switch (event.kind) {
    case "export":
      dispatch(updateQueryData("exports", event.job.showId, (jobs: ExportJob[]) => putFirst(jobs, event.job)));
      break;
    case "delivery": {
      const { delivery } = event;
      dispatch(updateQueryData("deliveries", delivery.showId, (all: Delivery[]) => putFirst(all, delivery)));
      break;
    }
    case "services":
      dispatch(invalidateTags(["services"]));
      break;
    case "connected":
      // What was told while there was no stream was missed.
      dispatch(invalidateTags(["exports", "deliveries", "services"]));
      break;
    // Taken up by whoever shows them.
    case "revision":
    case "shelf":
    case "check":
    case "client-page":
    case "copy":
    case "preparing":
      break;
  }
}

/** Puts a newer state of an item in the place of the older one; a new one comes first. */
export function putFirst<Item extends { readonly id: string }>(items: Item[], item: Item): void {
  const at = items.findIndex(({ id }) => id === item.id);
  if (at < 0) items.unshift(item);
  else items[at] = item;
}
