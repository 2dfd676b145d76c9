import { HummingTideError } from "@humming-tide/core";
import { applySlideList, readSlideList, type SlideListProblem, writeSlideList } from "@humming-tide/core/interchange";
import { counted } from "@humming-tide/core/language";
import { lockOrder, type ShowDocument } from "@humming-tide/core/show";
import { Checkbox } from "radix-ui";
import { type ReactNode, useRef, useState } from "react";
import { edit } from "../../store/edit.ts";
import { useOpenShow } from "../../store/open-show.ts";
import { Button } from "../../ui/Button.tsx";
import { DialogBox } from "../../ui/DialogBox.tsx";
import { download } from "../../ui/download.ts";
import { Notice } from "../../ui/Notice.tsx";
import {} from "./slide-facts.ts";

const LARGEST_BYTES = 20_000_000;

type Applied = {
  readonly show: ShowDocument;
  readonly matched: number;
  readonly problems: readonly SlideListProblem[];
};

/**
 * The list of slides as CSV: saved for a spreadsheet or the client, and brought in again with
 * order, captions, passages and ratings.
 */
export function SlideListDialog({ onClose }: { onClose: () => void }): ReactNode {
  const show = useOpenShow();
  const picker = useRef<HTMLInputElement>(null);
  const [file, setFile] = useState<{ name: string; text: string } | null>(null);
  const [takeOrder, setTakeOrder] = useState(!show.orderLocked);
  const [lock, setLock] = useState(false);
  const read = file ? apply(show, file.text, takeOrder) : null;
  const applied = read && "show" in read ? read : null;
  const take = (): void => {
    if (!applied) return;
    edit(() => (lock ? lockOrder(applied.show, true) : applied.show));
    onClose();
  };
  return (
    <DialogBox
      open
      onClose={onClose}
      title="The list of slides as CSV"
      width={600}
      actions={
        <>
          <Button onClick={onClose}>Cancel</Button>
          <Button kind="primary" disabled={!applied || applied.matched === 0} onClick={take}>
            {applied ? `Take over ${counted(applied.matched, "line")}` : "Take over"}
          </Button>
        </>
      }
    >
      <SaveList />
      <div className="mt-4 border-t border-line pt-4">
        <input
          ref={picker}
          type="file"
          accept=".csv,.tsv,.txt,text/csv"
          aria-label="Choose a list"
          className="sr-only"
          tabIndex={-1}
          onChange={(event) => {
            const [chosen] = event.target.files ?? [];
            event.target.value = "";
            if (!chosen) return;
            if (chosen.size > LARGEST_BYTES) setFile({ name: chosen.name, text: "" });
            else void chosen.text().then((text) => setFile({ name: chosen.name, text }));
          }}
        />
        <div className="flex items-center gap-3">
          <Button onClick={() => picker.current?.click()}>Bring in a list …</Button>
          <bdi className="truncate text-[13px] text-soft">{file?.name}</bdi>
        </div>
        {file && <OrderChoice takeOrder={takeOrder} onTakeOrder={setTakeOrder} lock={lock} onLock={setLock} />}
        {read && "refused" in read && (
          <div className="mt-3">
            <Notice kind="error">{read.refused}</Notice>
          </div>
        )}
        {applied && <AppliedList applied={applied} slideCount={show.slides.length} />}
      </div>
    </DialogBox>
  );
}

interface OrderChoiceProps {
  takeOrder: boolean;
  onTakeOrder: (value: boolean) => void;
  lock: boolean;
  onLock: (value: boolean) => void;
}

/** Whether its order is taken, and locked. */
function OrderChoice({ takeOrder, onTakeOrder, lock, onLock }: OrderChoiceProps): ReactNode {
  const show = useOpenShow();
  return (
    <div className="mt-3 flex flex-col gap-2 text-[13px]">
      <Tick label="Use its order and passages" checked={takeOrder} disabled={show.orderLocked} onChange={onTakeOrder} />
      <Tick label="Lock this order: the client chose it" checked={lock} disabled={!takeOrder} onChange={onLock} />
    </div>
  );
}

/** The list to save. */
function SaveList(): ReactNode {
  const show = useOpenShow();
  return (
    <div className="flex items-start justify-between gap-4 text-[13px] text-soft">
      <p>
        A line a slide: file, caption, passage, rating (keep, maybe, leave out) and hero. Spreadsheets open it; the
        client can sort it and write captions.
      </p>
      <Button
        className="shrink-0"
        onClick={() => download(`${show.title || "Show"} slides.csv`, writeSlideList(show), "text/csv")}
      >
        Save the list
      </Button>
    </div>
  );
}

/**
 * What a list would do: how many lines it has for slides of the show, and what is wrong with the
 * others.
 */
function AppliedList({ applied, slideCount }: { applied: Applied; slideCount: number }): ReactNode {
  const { matched, problems } = applied;
  return (
    <div className="mt-3 text-[13px]">
      <p>
        {counted(matched, "line")} of {counted(slideCount, "slide")} found
        {problems.length > 0 && `, ${counted(problems.length, "line")} with a problem:`}
      </p>
      <ul className="mt-1 max-h-[180px] overflow-y-auto" data-testid="list-problems">
        {problems.map(({ line, message }) => (
          <li key={`${line} ${message}`} className="py-0.5">
            <span className="mr-2 text-warning">Line {line}</span>
            <span className="break-words text-soft">{message}</span>
          </li>
        ))}
      </ul>
    </div>
  );
}

function apply(show: ShowDocument, text: string, takeOrder: boolean): Applied | { readonly refused: string } {
  try {
    const { rows, problems } = readSlideList(text);
    const applied = applySlideList(show, rows, { takeOrder });
    return { ...applied, problems: [...problems, ...applied.problems].sort((a, b) => a.line - b.line) };
  } catch (error) {
    if (error instanceof HummingTideError) return { refused: error.message };
    throw error;
  }
}

function Tick({
  label,
  checked,
  disabled,
  onChange,
}: {
  label: string;
  checked: boolean;
  disabled: boolean;
  onChange: (checked: boolean) => void;
}): ReactNode {
  return (
    <label className={`flex items-center gap-2 ${disabled ? "opacity-50" : ""}`}>
      <Checkbox.Root
        checked={checked && !disabled}
        disabled={disabled}
        onCheckedChange={(value) => onChange(value === true)}
        className="flex size-[18px] items-center justify-center rounded border border-line-strong bg-ground"
      >
        <Checkbox.Indicator className="size-2.5 rounded-sm bg-ink" />
      </Checkbox.Root>
      {label}
    </label>
  );
}
