import type { MergeConflict, MergeSide } from "@humming-tide/core/show";
import { type ReactNode, useState } from "react";
import { useOpenShow } from "../../store/open-show.ts";
import { settleConflict } from "../../store/saving.ts";
import { type RootState } from "../../store/store.ts";
import { Button } from "../../ui/Button.tsx";
import { Choice } from "../../ui/Choice.tsx";
import { DialogBox } from "../../ui/DialogBox.tsx";
import { conflictWords } from "./conflict-words.ts";

interface ConflictDialogProps {
  open: boolean;
  onClose: () => void;
  state: Extract<RootState["show"]["saveState"], { kind: "conflict" }>;
}

/**
 * Two windows changed the same things: both versions of each, and a choice for each. All other
 * changes of both are kept anyway.
 */
export function ConflictDialog({ open, onClose, state }: ConflictDialogProps): ReactNode {
  const [chosen, setChosen] = useState<Readonly<Record<string, MergeSide>>>({});
  const { conflicts } = state;
  const sideOf = (key: string): MergeSide => chosen[key] ?? "mine";
  const chooseAll = (side: MergeSide): void =>
    setChosen(Object.fromEntries(conflicts.map(({ key }) => [key, side] as const)));
  return (
    <DialogBox
      open={open}
      onClose={onClose}
      title="Changed in two windows"
      actions={
        <>
          <Button onClick={onClose}>Later</Button>
          <Button kind="primary" onClick={() => void settleConflict(sideOf).then(onClose)}>
            Save this choice
          </Button>
        </>
      }
    >
      <p className="text-[14px] text-soft">
        Choose what counts. Everything else that both windows changed is kept. What you do not choose stays in reach: by
        undo, or in the history.
      </p>
      {conflicts.length > 1 && (
        <div className="mt-3 flex gap-2">
          <Button onClick={() => chooseAll("mine")}>All from this window</Button>
          <Button onClick={() => chooseAll("theirs")}>All from the other</Button>
        </div>
      )}
      <ul className="mt-4 flex max-h-[46vh] flex-col gap-4 overflow-y-auto pr-1">
        {conflicts.map((conflict) => (
          <li key={conflict.key}>
            <ConflictLine
              conflict={conflict}
              side={sideOf(conflict.key)}
              onChoose={(side) => setChosen({ ...chosen, [conflict.key]: side })}
            />
          </li>
        ))}
      </ul>
    </DialogBox>
  );
}

interface ConflictLineProps {
  conflict: MergeConflict;
  side: MergeSide;
  onChoose: (side: MergeSide) => void;
}

function ConflictLine({ conflict, side, onChoose }: ConflictLineProps): ReactNode {
  const document = useOpenShow();
  const { what, mine, theirs } = conflictWords(conflict, document);
  return (
    <div>
      <p className="mb-1.5 text-[14px] text-ink">{what}</p>
      <Choice
        label={what}
        value={side}
        options={[
          { value: "mine", label: `This window: ${mine}` },
          { value: "theirs", label: `The other: ${theirs}` },
        ]}
        onChange={onChoose}
      />
    </div>
  );
}
