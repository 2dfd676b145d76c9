import { orderSlides } from "@humming-tide/core/show";
import { type ReactNode, useState } from "react";
import { edit } from "../../store/edit.ts";
import { Button } from "../../ui/Button.tsx";
import { DialogBox } from "../../ui/DialogBox.tsx";
import { Field } from "../../ui/Field.tsx";

const LARGEST_SEED = 2 ** 32 - 1;

/** Shuffles by a number, so that the same shuffle can be had again. */
export function ShuffleDialog({ onClose }: { onClose: () => void }): ReactNode {
  const [text, setText] = useState(() => String(Math.floor(Math.random() * 9000) + 1000));
  const seed = Number(text);
  const valid = /^\d+$/.test(text) && seed <= LARGEST_SEED;
  const shuffle = (): void => {
    // From one order always the same: first by name, so that the number alone decides.
    edit((show) => orderSlides(orderSlides(show, null, { kind: "name" }), null, { kind: "shuffle", seed }));
    onClose();
  };
  return (
    <DialogBox
      open
      onClose={onClose}
      title="Shuffle the pictures"
      width={380}
      actions={
        <>
          <Button onClick={onClose}>Cancel</Button>
          <Button kind="primary" disabled={!valid} onClick={shuffle}>
            Shuffle
          </Button>
        </>
      }
    >
      <Field
        label="Number of the shuffle"
        inputMode="numeric"
        value={text}
        autoFocus
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => event.key === "Enter" && valid && shuffle()}
        hint="The same pictures with the same number always come in the same order."
      />
    </DialogBox>
  );
}
