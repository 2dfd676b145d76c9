import { checkRunSchema } from "@humming-tide/contract";
import { useEffect } from "react";
import { checkActions } from "../../store/check-slice.ts";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";

/** Keeps what the server checks of the open show in the store, by its events. */
export function useCheckRun(): void {
  const dispatch = useAppDispatch();
  const showId = useAppSelector((state) => state.show.id);
  useEffect(() => {
    if (showId === null) return;
    const events = new EventSource(`/api/shows/${showId}/check/events`);
    events.addEventListener("change", (event) => {
      dispatch(checkActions.ran(checkRunSchema.parse(JSON.parse((event as MessageEvent<string>).data))));
    });
    return () => events.close();
  }, [dispatch, showId]);
}
