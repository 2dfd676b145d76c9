import { useEffect } from "react";
import { api } from "../../api.ts";
import { listenLive } from "../../live/live-wire.ts";
import { checkActions } from "../../store/check-slice.ts";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";

/** Keeps what the server checks of the open show in the store. */
export function useCheckRun(): void {
  const dispatch = useAppDispatch();
  const showId = useAppSelector((state) => state.show.id);
  useEffect(() => {
    if (showId === null) return;
    let isOpen = true;
    const look = (): void => {
      api.checkRun(showId).then(
        (run) => isOpen && run && dispatch(checkActions.ran(run)),
        () => undefined,
      );
    };
    look();
    const stop = listenLive((event) => {
      if (event.kind === "connected") look();
      else if (event.kind === "check" && event.run.showId === showId) dispatch(checkActions.ran(event.run));
    });
    return () => {
      isOpen = false;
      stop();
    };
  }, [dispatch, showId]);
}
