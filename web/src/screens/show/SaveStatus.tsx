import { type ReactNode, useState } from "react";
import { saveNow } from "../../store/saving.ts";
import { useAppSelector } from "../../store/store.ts";
import { Button } from "../../ui/Button.tsx";
import { ConflictDialog } from "./ConflictDialog.tsx";

/**
 * Whether the server has the newest edit; where another window changed the same things, the person
 * decides.
 */
export function SaveStatus(): ReactNode {
  const state = useAppSelector((root) => root.show.saveState);
  const making = useAppSelector((root) => Object.keys(root.view.making).length);
  const [asks, setAsks] = useState(false);
  switch (state.kind) {
    case "saved":
      return (
        <Quiet>
          {making > 0 ? `Saved. Preparing ${making === 1 ? "1 file" : `${making} files`} again …` : "Saved"}
        </Quiet>
      );
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
    case "conflict": {
      return (
        <>
          <span role="alert" className="flex items-center gap-2 text-[13px] whitespace-nowrap text-error">
            Changed in two windows, not saved yet
            <Button onClick={() => setAsks(true)}>Choose …</Button>
          </span>
          <ConflictDialog open={asks} onClose={() => setAsks(false)} state={state} />
        </>
      );
    }
  }
}

function Quiet({ children }: { children: ReactNode }): ReactNode {
  return (
    <span role="status" className="text-[13px] whitespace-nowrap text-quiet" data-testid="save-status">
      {children}
    </span>
  );
}
