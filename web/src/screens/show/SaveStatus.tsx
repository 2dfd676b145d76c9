import { counted } from "@humming-tide/core/language";
import { timeLeftText } from "@humming-tide/core/time";
import { type ReactNode, useState } from "react";
import { saveNow } from "../../store/saving.ts";
import { useAppSelector } from "../../store/store.ts";
import type { Preparing } from "../../store/view-slice.ts";
import { Button } from "../../ui/Button.tsx";
import { ConflictDialog } from "./ConflictDialog.tsx";

/**
 * Whether the server has the newest edit; where another window changed the same things, the person
 * decides.
 */
export function SaveStatus(): ReactNode {
  const state = useAppSelector((root) => root.show.saveState);
  const preparing = useAppSelector((root) => root.view.preparing);
  const [asks, setAsks] = useState(false);
  switch (state.kind) {
    case "saved":
      return <Quiet>{["Saved", preparingText(Object.values(preparing))].filter(Boolean).join(". ")}</Quiet>;
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

/**
 * What the server makes ready: one medium with its share and the time left, several as their
 * number.
 */
export function preparingText(preparing: readonly Preparing[]): string {
  const [first] = preparing;
  if (!first) return "";
  if (preparing.length > 1) return `Preparing ${counted(preparing.length, "file")} …`;
  if (first.progress === null) return `Preparing ${first.fileName} …`;
  const left = first.secondsLeft === null ? "" : `, ${timeLeftText(first.secondsLeft)} left`;
  return `Preparing ${first.fileName}: ${Math.floor(100 * first.progress)} %${left}`;
}

function Quiet({ children }: { children: string }): ReactNode {
  return (
    <span
      role="status"
      className="max-w-[440px] truncate text-[13px] text-quiet"
      title={children}
      data-testid="save-status"
    >
      {children}
    </span>
  );
}
