import type { ReactNode } from "react";
import { api } from "../../api.ts";
import { forgetKeptEdit, saveNow } from "../../store/saving.ts";
import { showActions } from "../../store/show-slice.ts";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";
import { viewActions } from "../../store/view-slice.ts";
import { Button } from "../../ui/Button.tsx";

/** Whether the server has the newest edit; where another window came first, the person decides. */
export function SaveStatus(): ReactNode {
  const dispatch = useAppDispatch();
  const state = useAppSelector((root) => root.show.saveState);
  const id = useAppSelector((root) => root.show.id)!;
  const unreachable = (error: Error): void => void dispatch(viewActions.said(error.message));
  const keepMine = async (): Promise<void> => {
    try {
      const { revision } = await api.getShow(id);
      dispatch(showActions.rebased(revision));
      await saveNow();
    } catch (error) {
      unreachable(error as Error);
    }
  };
  const takeOther = (): void => {
    api.getShow(id).then((show) => {
      forgetKeptEdit(id);
      // The document that goes stays one undo step away.
      dispatch(showActions.followed(show));
    }, unreachable);
  };
  switch (state.kind) {
    case "saved":
      return <Quiet>Saved</Quiet>;
    case "unsaved":
    case "saving":
      return <Quiet>Saving …</Quiet>;
    case "offline":
      return (
        <span role="alert" className="flex max-w-[460px] items-center gap-2 text-[13px] text-error">
          <span className="truncate" title={state.message}>
            Kept in this browser, sent when the server is back: {state.message}
          </span>
          <Button onClick={() => void saveNow()}>Try now</Button>
        </span>
      );
    case "conflict":
      return (
        <span role="alert" className="flex items-center gap-2 text-[13px] text-error" title={state.message}>
          Changed in another window too. Nothing is overwritten.
          <Button onClick={takeOther}>Take the other</Button>
          <Button onClick={() => void keepMine()}>Keep mine</Button>
        </span>
      );
  }
}

function Quiet({ children }: { children: ReactNode }): ReactNode {
  return (
    <span role="status" className="text-[13px] whitespace-nowrap text-quiet" data-testid="save-status">
      {children}
    </span>
  );
}
