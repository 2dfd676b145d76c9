import type { DiscWish, ExportJob, Services } from "@humming-tide/contract";
import { present } from "@humming-tide/core/presence";
import { type ReactNode, useState } from "react";
import { api } from "../../../api.ts";
import { useOpenShow, useShowId } from "../../../store/open-show.ts";
import { Button } from "../../../ui/Button.tsx";
import { Choice } from "../../../ui/Choice.tsx";
import { Field } from "../../../ui/Field.tsx";
import { Notice } from "../../../ui/Notice.tsx";
import { Panel } from "../../../ui/Panel.tsx";

const FIRST = [
  { value: "menu", label: "The menu", hint: "Chapters with their pictures" },
  { value: "film", label: "The film", hint: "Then the menu" },
] as const;

/** Of a volume's name. */
const MOST_LETTERS = 32;

/** As many words as fit; a single long one is cut. */
function wholeWords(text: string, most: number): string {
  if (text.length <= most) return text;
  const cut = text.slice(0, most + 1);
  return (cut.includes(" ") ? cut.slice(0, cut.lastIndexOf(" ")) : text.slice(0, most)).trim();
}

/** A disc with a menu of the passages, or the folder for one. */
export function DiscForm({ film, services }: { film: ExportJob | null; services: Services | null }): ReactNode {
  const title = useOpenShow((show) => show.title);
  const showId = useShowId();
  const [label, setLabel] = useState(() => wholeWords(title, MOST_LETTERS));
  const [firstPlay, setFirstPlay] = useState<DiscWish["firstPlay"]>("menu");
  const [failure, setFailure] = useState<string | null>(null);
  const deliver = async (onlyFolder: boolean): Promise<void> => {
    setFailure(null);
    try {
      await api.deliver(showId, {
        kind: "disc",
        exportId: present(film).id,
        label: label.trim(),
        firstPlay,
        onlyFolder,
      });
    } catch (error) {
      setFailure((error as Error).message);
    }
  };
  const isBlank = services?.drive?.medium?.state === "blank" && !services.drive.isBusy;
  const isReady = film !== null && label.trim() !== "";
  return (
    <Panel title="On a disc">
      <form
        className="flex flex-col gap-2.5"
        onSubmit={(event) => {
          event.preventDefault();
          void deliver(false);
        }}
      >
        <Field
          label="Name of the disc"
          value={label}
          maxLength={MOST_LETTERS}
          onChange={({ target }) => setLabel(target.value)}
        />
        <div>
          <p className="mb-1 text-[13px] text-soft">Plays first</p>
          <Choice label="Plays first" value={firstPlay} options={FIRST} onChange={setFirstPlay} />
        </div>
        <p className="text-[13px] text-soft" data-testid="drive">
          {driveText(services)}
          {services?.address && (
            <>
              {" "}
              <a href={services.address} target="_blank" rel="noreferrer" className="underline underline-offset-2">
                To the drive
              </a>
            </>
          )}
        </p>
        <Button type="submit" kind="primary" disabled={!isReady || !isBlank}>
          Burn the disc
        </Button>
        <Button disabled={!isReady} onClick={() => void deliver(true)}>
          Only write the folder
        </Button>
        {failure && <Notice kind="error">{failure}</Notice>}
      </form>
    </Panel>
  );
}

function driveText(services: Services | null): string {
  if (!services) return "Asking the drive …";
  if (services.address === null)
    return "No drive is set up (--services). The folder can be burnt with any other program.";
  if (!services.drive) return "The drive does not answer.";
  const { medium, isBusy } = services.drive;
  if (isBusy) return "The drive is writing.";
  if (!medium) return "There is no disc in the drive. Put in a blank one.";
  const size = medium.kind === "single" ? "4.7 GB" : "8.5 GB, two layers";
  if (medium.state === "blank") return `A blank disc (${size}) is in the drive.`;
  return `The disc in the drive is ${medium.state === "written" ? "written" : "spoilt"}. Put in a blank one.`;
}
