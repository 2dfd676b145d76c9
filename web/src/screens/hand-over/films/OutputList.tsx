import { defaultOutputs } from "@humming-tide/core/film";
import { counted } from "@humming-tide/core/language";
import { shapeOf } from "@humming-tide/core/picture";
import { itemAt } from "@humming-tide/core/presence";
import { addOutput, type FilmOutput, MOST_OUTPUTS, type ShowSong } from "@humming-tide/core/show";
import { Plus } from "lucide-react";
import { type ReactNode, useState } from "react";
import { api } from "../../../api.ts";
import { edit } from "../../../store/edit.ts";
import { newId } from "../../../store/new-id.ts";
import { useOpenShow, useShowId } from "../../../store/open-show.ts";
import { saveNow } from "../../../store/saving.ts";
import { store, useAppSelector } from "../../../store/store.ts";
import { Button } from "../../../ui/Button.tsx";
import { Menu, MenuHeading, MenuItem } from "../../../ui/Menu.tsx";
import { Notice } from "../../../ui/Notice.tsx";
import { outputDetails, outputText, partLength } from "./output-words.ts";

interface OutputListProps {
  outputs: readonly FilmOutput[];
  editedId: string | null;
  onEdit: (id: string) => void;
}

/** The show's outputs: tick those that are to be made, press one to change it. */
export function OutputList({ outputs, editedId, onEdit }: OutputListProps): ReactNode {
  const showId = useShowId();
  const songs = useOpenShow((show) => show.songs);
  const [unticked, setUnticked] = useState<ReadonlySet<string>>(new Set());
  const [failure, setFailure] = useState<string | null>(null);
  const ticked = outputs.filter(({ id }) => !unticked.has(id));
  const start = async (): Promise<void> => {
    setFailure(null);
    try {
      await saveNow();
      if (store.getState().show.saveState.kind !== "saved")
        throw new Error(
          "The newest edits are not saved yet, so they would be missing from the film. Try again when the show says “Saved”.",
        );
      await api.startExports(
        showId,
        ticked.map(({ id }) => id),
      );
    } catch (error) {
      setFailure((error as Error).message);
    }
  };
  return (
    <section aria-label="Outputs">
      <div className="mb-3 flex items-center gap-3">
        <h1 className="flex-1 text-xl">Outputs</h1>
        {outputs.length < MOST_OUTPUTS && <AddOutput onAdded={onEdit} />}
        <Button kind="primary" disabled={ticked.length === 0} onClick={() => void start()}>
          {ticked.length === 1 ? `Export ${itemAt(ticked, 0).name}` : `Export ${counted(ticked.length, "film")}`}
        </Button>
      </div>
      {failure && (
        <div className="mb-3">
          <Notice kind="error">{failure}</Notice>
        </div>
      )}
      {outputs.length === 0 && (
        <p className="text-[14px] text-soft">
          Add what is to be handed over: the whole film, a short one, one for phones.
        </p>
      )}
      <ul className="overflow-hidden rounded-lg border border-line">
        {outputs.map((output) => (
          <OutputLine
            key={output.id}
            output={output}
            songs={songs}
            editedId={editedId}
            unticked={unticked}
            onUnticked={setUnticked}
            onEdit={onEdit}
          />
        ))}
      </ul>
    </section>
  );
}

interface OutputLineProps {
  output: FilmOutput;
  songs: readonly ShowSong[];
  editedId: string | null;
  unticked: ReadonlySet<string>;
  onUnticked: (value: ReadonlySet<string>) => void;
  onEdit: (id: string) => void;
}

/** One output: ticked to be made, pressed to be changed. */
function OutputLine({ output, songs, editedId, unticked, onUnticked, onEdit }: OutputLineProps): ReactNode {
  return (
    <li
      className={`flex items-center gap-3 border-t border-line px-3 first:border-t-0 ${output.id === editedId ? "bg-high" : "bg-raised hover:bg-high/60"}`}
    >
      <input
        type="checkbox"
        aria-label={`Export ${output.name}`}
        checked={!unticked.has(output.id)}
        onChange={({ target }) => {
          const next = new Set(unticked);
          if (target.checked) next.delete(output.id);
          else next.add(output.id);
          onUnticked(next);
        }}
        className="size-4 accent-[var(--lantern)]"
      />
      <button
        type="button"
        aria-pressed={output.id === editedId}
        onClick={() => onEdit(output.id)}
        className="flex min-w-0 flex-1 items-center gap-4 py-2.5 text-left"
      >
        <ShapeSign shape={shapeOf(output.size)} />
        <span className="min-w-0 flex-1">
          <span className="block truncate text-[15px]">{output.name}</span>
          <span className="block truncate text-[13px] text-quiet">{outputDetails(output, songs)}</span>
        </span>
        <span className="shrink-0 text-[13px] text-soft tabular-nums">{outputText(output)}</span>
      </button>
    </li>
  );
}

/** A small frame of the output's shape. */
function ShapeSign({ shape }: { shape: string }): ReactNode {
  const [across, down] = shape.split(":").map(Number) as [number, number];
  const scale = 26 / Math.max(across, down);
  return (
    <span aria-hidden className="flex h-[26px] w-[26px] shrink-0 items-center justify-center">
      <span
        className="block rounded-[3px] border-2 border-line-strong"
        style={{ width: Math.max(6, across * scale), height: Math.max(6, down * scale) }}
      />
    </span>
  );
}

function AddOutput({ onAdded }: { onAdded: (id: string) => void }): ReactNode {
  const show = useOpenShow();
  const heard = useAppSelector((state) => state.song.heard);
  const offered = defaultOutputs(show, (sha256) => heard[sha256]?.analysis ?? undefined);
  return (
    <Menu
      align="end"
      trigger={
        <Button>
          <Plus size={14} aria-hidden /> Add an output
        </Button>
      }
    >
      <MenuHeading>Ready-made outputs. Change them as you like.</MenuHeading>
      {offered.map((output) => (
        <MenuItem
          key={output.name}
          aside={outputText(output)}
          onSelect={() => {
            const id = newId();
            edit((document) => addOutput(document, { ...output, id }));
            onAdded(id);
          }}
        >
          {output.part ? `${output.name}, ${partLength(output.part, show.songs)}` : output.name}
        </MenuItem>
      ))}
    </Menu>
  );
}
