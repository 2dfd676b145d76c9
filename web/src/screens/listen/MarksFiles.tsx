import { MARKS_FORMATS, type MarksFormat, readMarks, writeMarks } from "@humming-tide/core/interchange";
import { counted, wordFor } from "@humming-tide/core/language";
import { withMarkers } from "@humming-tide/core/show";
import { type ReactNode, useRef, useState } from "react";
import { api } from "../../api.ts";
import { Button } from "../../ui/Button.tsx";
import { download } from "../../ui/download.ts";
import { Menu, MenuItem } from "../../ui/Menu.tsx";
import { Panel } from "../../ui/Panel.tsx";
import { useListenSong } from "./listen-song.tsx";

const FORMATS: Readonly<Record<MarksFormat, { readonly label: string; readonly type: string }>> = {
  beats: { label: "Beats as text", type: "text/plain" },
  csv: { label: "Beats and markers as CSV", type: "text/csv" },
  vtt: { label: "Markers as WebVTT", type: "text/vtt" },
  mid: { label: "Beats and markers as MIDI", type: "audio/midi" },
};

/** A file of marks is far smaller; a WAV with cue points may be a whole song. */
const LARGEST_BYTES = 1_000_000_000;

/** Beats and markers out of and into files that other programs read and write (docs/formats.md). */
export function MarksFiles(): ReactNode {
  const input = useRef<HTMLInputElement>(null);
  const { said, read, write, writeWav } = useMarksFiles();
  return (
    <Panel title="Files of other programs">
      <div className="grid grid-cols-2 gap-2">
        <Button onClick={() => input.current?.click()}>Read …</Button>
        <WriteMenu onWrite={write} onWriteWav={writeWav} />
      </div>
      <input
        ref={input}
        type="file"
        accept=".beats,.txt,.csv,.tsv,.vtt,.mid,.midi,.wav"
        className="sr-only"
        tabIndex={-1}
        aria-label="Read beats and markers"
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) void read(file);
          event.target.value = "";
        }}
      />
      <p
        aria-live="polite"
        className={`mt-2 min-h-5 text-[13px] break-words ${said.isError ? "text-error" : "text-soft"}`}
      >
        {said.text || "Text with two columns, CSV, WebVTT, MIDI, WAV with cue points."}
      </p>
    </Panel>
  );
}

/** Reads and writes the marks of the open song, and says what came of it. */
function useMarksFiles() {
  const { song, analysis, grid, change } = useListenSong();
  const [said, setSaid] = useState<{ text: string; isError: boolean }>({ text: "", isError: false });
  const stem = song.fileName.replace(/\.\w+$/, "");
  const marks = {
    beats: grid.beats.map(({ seconds, position }) => ({ seconds, position })),
    markers: song.markers,
  };
  const read = async (file: File): Promise<void> => {
    try {
      const { beats, markers, outside } = await marksInside(file, analysis.durationSeconds);
      change(({ gridEdits, markers: before }) => ({
        gridEdits: beats.length > 0 ? [...gridEdits, { kind: "given", beats }] : gridEdits,
        markers: withMarkers(
          before,
          markers.map(({ seconds, name, kind }) => ({
            seconds,
            name: name.slice(0, 200),
            kind: kind ?? "cut",
            origin: "imported",
          })),
        ),
      }));
      setSaid({
        text:
          `${counted(beats.length, "beat")} and ${counted(markers.length, "marker")} read from “${file.name}”` +
          `${outside > 0 ? `; ${outside} ${wordFor(outside, "lies", "lie")} after the end of the song` : ""}.`,
        isError: false,
      });
    } catch (error) {
      setSaid({ text: `“${file.name}” was not read. ${(error as Error).message} Nothing was changed.`, isError: true });
    }
  };
  const write = (format: MarksFormat): void =>
    download(`${stem}.${format}`, writeMarks(format, marks, analysis.durationSeconds), FORMATS[format].type);
  const writeWav = async (): Promise<void> => {
    setSaid({ text: "Writing the sound with its markers …", isError: false });
    try {
      download(`${stem}.wav`, await api.markedWav(song.sha256, song.markers), "audio/wav");
      setSaid({ text: `“${stem}.wav” holds ${song.markers.length} cue points.`, isError: false });
    } catch (error) {
      setSaid({ text: (error as Error).message, isError: true });
    }
  };
  return { said, read, write, writeWav };
}

/** The marks of a file that lie inside the song, and how many do not. */
async function marksInside(file: File, songSeconds: number) {
  if (file.size > LARGEST_BYTES) throw new Error("Files of marks are smaller than a gigabyte.");
  const found = readMarks(new Uint8Array(await file.arrayBuffer()), file.name);
  const beats = found.beats.filter(({ seconds }) => seconds <= songSeconds);
  const markers = found.markers.filter(({ seconds }) => seconds <= songSeconds);
  return { beats, markers, outside: found.beats.length + found.markers.length - beats.length - markers.length };
}

interface WriteMenuProps {
  onWrite: (format: MarksFormat) => void;
  onWriteWav: () => Promise<void>;
}

/** The formats that can be written. */
function WriteMenu({ onWrite, onWriteWav }: WriteMenuProps): ReactNode {
  return (
    <Menu trigger={<Button>Write …</Button>} align="end">
      {MARKS_FORMATS.map((format) => (
        <MenuItem key={format} onSelect={() => onWrite(format)} aside={`.${format}`}>
          {FORMATS[format].label}
        </MenuItem>
      ))}
      <MenuItem onSelect={() => void onWriteWav()} aside=".wav">
        Markers as cue points in the sound
      </MenuItem>
    </Menu>
  );
}
