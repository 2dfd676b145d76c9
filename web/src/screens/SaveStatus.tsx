import type { ReactNode } from "react";
import { api } from "../api.ts";
import { forgetKeptEdit, saveNow } from "../store/saving.ts";
import { showActions } from "../store/show-slice.ts";
import { useAppDispatch, useAppSelector } from "../store/store.ts";
import { Button } from "../ui/Button.tsx";

/** Whether the server has the newest edit; where another window came first, the person decides. */
export function SaveStatus(): ReactNode {
  const dispatch = useAppDispatch();
  const state = useAppSelector((root) => root.show.saveState);
  const id = useAppSelector((root) => root.show.id)!;
  const keepMine = async (): Promise<void> => {
    const { revision } = await api.getShow(id);
    dispatch(showActions.rebased(revision));
    await saveNow();
  };
  switch (state.kind) {
    case "saved":
      return <span className="text-[13px] text-quiet">Saved</span>;
    case "unsaved":
    case "saving":
      return <span className="text-[13px] text-quiet">Saving …</span>;
    case "offline":
      return (
        <span role="alert" className="max-w-[420px] truncate text-[13px] text-error" title={state.message}>
          Not saved, kept in this browser: {state.message}
        </span>
      );
    case "conflict":
      return (
        <span role="alert" className="flex items-center gap-2 text-[13px] text-error">
          Changed in another window.
          <Button
            onClick={() => {
              forgetKeptEdit(id);
              void api.getShow(id).then((show) => dispatch(showActions.opened(show)));
            }}
          >
            Take the other
          </Button>
          <Button onClick={() => void keepMine()}>Keep mine</Button>
        </span>
      );
  }
}
