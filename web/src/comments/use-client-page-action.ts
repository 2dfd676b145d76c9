import type { StudioClientPage } from "@humming-tide/contract";
import { useState } from "react";
import { clientActions } from "../store/client-slice.ts";
import { useAppDispatch } from "../store/store.ts";

/** Something that is done to a client page: its answer is the page as it is then. */
export function useClientPageAction(): {
  readonly isBusy: boolean;
  readonly failure: string | null;
  /** Returns whether it was done. */
  readonly run: (action: () => Promise<StudioClientPage>) => Promise<boolean>;
} {
  const dispatch = useAppDispatch();
  const [isBusy, setBusy] = useState(false);
  const [failure, setFailure] = useState<string | null>(null);
  const run = async (action: () => Promise<StudioClientPage>): Promise<boolean> => {
    setBusy(true);
    setFailure(null);
    try {
      dispatch(clientActions.came(await action()));
      return true;
    } catch (error) {
      setFailure((error as Error).message);
      return false;
    } finally {
      setBusy(false);
    }
  };
  return { isBusy, failure, run };
}
