import type { FilmPlan } from "@humming-tide/core/film";
import { editListHolds } from "@humming-tide/core/interchange";
import { present } from "@humming-tide/core/presence";
import { frameRateName } from "@humming-tide/core/time";
import { Download } from "lucide-react";
import type { ReactNode } from "react";
import { useShowId } from "../../../store/open-show.ts";
import { useAppSelector } from "../../../store/store.ts";
import { ButtonLink } from "../../../ui/Button.tsx";
import { CompareTimings } from "./CompareTimings.tsx";

interface OfferedFile {
  readonly format: string;
  readonly name: string;
  readonly ending: string;
  readonly text: string;
}

const FILES: readonly OfferedFile[] = [
  {
    format: "pdf",
    name: "Cue sheet",
    ending: ".pdf",
    text: "To print and to read on a set: every slide with its picture, time, bar and words.",
  },
  {
    format: "otio",
    name: "Timeline",
    ending: ".otio",
    text: "OpenTimelineIO: slides, transitions, speeds, songs and voices, chapters as markers. Holds any frame rate.",
  },
  {
    format: "edl",
    name: "Edit list",
    ending: ".edl",
    text: "CMX 3600: one picture track, cuts and dissolves; other transitions become dissolves, with a comment.",
  },
  {
    format: "csv",
    name: "Slots",
    ending: ".csv",
    text: "A row for each slide: times, landing and its error, transition, words.",
  },
  { format: "vtt", name: "Chapters", ending: ".vtt", text: "WebVTT: a chapter for each passage." },
  {
    format: "mid",
    name: "Grid",
    ending: ".mid",
    text: "Standard MIDI File: tempo, meter and markers of the whole music.",
  },
];

/** What other programs and people go on with, and what they made of it compared with the film. */
export function FilesView({ plan }: { plan: FilmPlan }): ReactNode {
  const showId = useShowId();
  const isSaved = useAppSelector((state) => state.show.saveState.kind === "saved");
  const isDivided = useAppSelector(
    ({ show: { document } }) =>
      present(document).passages.length > 1 || present(document).passages.some(({ name }) => name !== ""),
  );
  const reasonAgainst = ({ format }: OfferedFile): string | null => {
    if (format === "edl" && !editListHolds(plan.rate))
      return `Counts up to 30 frames a second; the show is laid at ${frameRateName(plan.rate)}.`;
    if (format === "vtt" && !isDivided) return "The show has only one passage, without a name.";
    return null;
  };
  return (
    <div className="min-w-0 flex-1 overflow-y-auto px-6 py-4">
      <h1 className="mb-1 text-xl">For other tools</h1>
      <p className="mb-4 text-[13px] text-soft">
        The film as the show is laid now{isSaved ? "" : ", once it is saved"}.
      </p>
      <div className="mb-3 flex items-start gap-3 rounded-lg border border-line bg-raised px-4 py-3">
        <div className="min-w-0 flex-1">
          <h2 className="text-[15px]">
            Folder with media <span className="text-[13px] text-quiet">.zip</span>
          </h2>
          <p className="mt-0.5 text-[13px] text-soft">
            All files below, and every picture, clip, song and voice of the film. Unpack it and open the timeline: the
            other program finds everything. Files of the same name are told apart.
          </p>
        </div>
        <DownloadLink href={`/api/shows/${showId}/film-folder`} name="Folder with media" />
      </div>
      <ul className="grid grid-cols-2 gap-3">
        {FILES.map((file) => {
          const against = reasonAgainst(file);
          return (
            <li key={file.format} className="flex items-start gap-3 rounded-lg border border-line bg-raised px-4 py-3">
              <div className="min-w-0 flex-1">
                <h2 className="text-[15px]">
                  {file.name} <span className="text-[13px] text-quiet">{file.ending}</span>
                </h2>
                <p className="mt-0.5 text-[13px] text-soft">{against ?? file.text}</p>
              </div>
              {against === null && (
                <DownloadLink href={`/api/shows/${showId}/film-files/${file.format}`} name={file.name} />
              )}
            </li>
          );
        })}
      </ul>
      <CompareTimings plan={plan} />
    </div>
  );
}

function DownloadLink({ href, name }: { href: string; name: string }): ReactNode {
  return (
    <ButtonLink href={href} download aria-label={`Download ${name}`} className="shrink-0">
      <Download size={14} aria-hidden /> Download
    </ButtonLink>
  );
}
