import { useEffect } from "react";
import { api } from "../../api.ts";
import { clientActions } from "../../store/client-slice.ts";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";

const LOOK_AGAIN_MS = 5000;

/** Keeps what clients say and how far their films are up to date while a show is open. */
export function useClientPage(): void {
  const dispatch = useAppDispatch();
  const showId = useAppSelector((state) => state.show.id)!;
  useEffect(() => {
    let isOpen = true;
    const look = async (): Promise<void> => {
      // A page that nobody sees asks nothing; without an answer what is known stays.
      if (document.visibilityState === "hidden") return;
      const page = await api.clientPage(showId).catch(() => null);
      if (page && isOpen) dispatch(clientActions.came(page));
    };
    void look();
    const timer = setInterval(() => void look(), LOOK_AGAIN_MS);
    return () => {
      isOpen = false;
      clearInterval(timer);
      dispatch(clientActions.left());
    };
  }, [dispatch, showId]);
}
