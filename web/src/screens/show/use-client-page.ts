import { useEffect } from "react";
import { api } from "../../api.ts";
import { listenLive } from "../../live/live-wire.ts";
import { clientActions } from "../../store/client-slice.ts";
import { useShowId } from "../../store/open-show.ts";
import { useAppDispatch } from "../../store/store.ts";

/** Several changes in a row, like the steps of an export, are one look. */
const LOOK_AFTER_MS = 250;

/** Keeps what clients say and how far their films are up to date while a show is open. */
export function useClientPage(): void {
  const dispatch = useAppDispatch();
  const showId = useShowId();
  useEffect(() => {
    let isOpen = true;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const look = (): void => {
      timer ??= setTimeout(() => {
        timer = undefined;
        api.clientPage(showId).then(
          (page) => isOpen && dispatch(clientActions.came(page)),
          // Without an answer what is known stays.
          () => undefined,
        );
      }, LOOK_AFTER_MS);
    };
    look();
    const stop = listenLive((event) => {
      const isOurs =
        (event.kind === "client-page" && event.showId === showId) ||
        (event.kind === "revision" && event.showId === showId) ||
        (event.kind === "export" && event.job.showId === showId);
      if (isOurs || event.kind === "connected") look();
    });
    return () => {
      isOpen = false;
      clearTimeout(timer);
      stop();
    };
  }, [dispatch, showId]);
  useEffect(() => () => void dispatch(clientActions.left()), [dispatch, showId]);
}
