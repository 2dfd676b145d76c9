import { counted } from "@humming-tide/core/language";
import type { MusicAnalysis } from "@humming-tide/core/music";
import { addSong, removeSong, type ShowSong, type SongChange, shiftSong } from "@humming-tide/core/show";
import { clockText } from "@humming-tide/core/time";
import { ArrowDown, ArrowUp, Plus, Trash2 } from "lucide-react";
import { type ReactNode, useRef, useState } from "react";
import { chosenFiles } from "../../intake/dropped-files.ts";
import { bringIn } from "../../intake/intake.ts";
import { SongLibraryDialog } from "../../song-library/SongLibraryDialog.tsx";
import { usePlayer } from "../../stage/player-context.tsx";
import { useOpenShow } from "../../store/open-show.ts";
import { showActions } from "../../store/show-slice.ts";
import { songActions } from "../../store/song-slice.ts";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";
import { Button, IconButton } from "../../ui/Button.tsx";
import { Choice } from "../../ui/Choice.tsx";
import { LineField } from "../../ui/Field.tsx";
import { Panel } from "../../ui/Panel.tsx";
import { useListenSong } from "./listen-song.tsx";
import { nearestBar } from "./nearest-bar.ts";
import { RearrangePanel } from "./RearrangePanel.tsx";

const ENTRIES = [
  { value: "gap", label: "none" },
  ...["2", "4", "8"].map((bars) => ({ value: bars, label: `${bars} bars` })),
];
const FADE_INS = ["0", "1", "2", "4"].map((value) => ({ value, label: value === "0" ? "none" : value }));
const FADE_OUTS = [
  { value: "rule", label: "automatic", hint: "The film's last song fades from its last bar; others just end" },
  ...["0", "1", "2", "4"].map((value) => ({ value, label: value === "0" ? "none" : value })),
];

/** The songs of the film in their order, and how the open one begins, follows and ends. */
export function SongsPanel(): ReactNode {
  const { song } = useListenSong();
  const songs = useOpenShow((show) => show.songs);
  const arranged = useAppSelector((state) => state.view.plan?.music.songs);
  const dispatch = useAppDispatch();
  return (
    <>
      <Panel title="Songs of the film">
        <ol aria-label="Songs of the film" className="-mx-2 mb-2">
          {songs.map((other, index) => {
            const place = arranged?.find(({ songId }) => songId === other.id);
            return (
              <li key={other.id} className={`rounded-md px-2 py-1.5 ${other.id === song.id ? "bg-high" : ""}`}>
                <button
                  type="button"
                  aria-current={other.id === song.id}
                  className="block w-full truncate text-left text-[14px] text-ink"
                  title={other.fileName}
                  onClick={() => dispatch(songActions.songChosen(other.id))}
                >
                  {index + 1}. <bdi>{other.fileName}</bdi>
                </button>
                <p className="text-[13px] text-quiet">
                  {place ? `${clockText(place.startSeconds)} to ${clockText(place.endSeconds)}` : "listening …"}
                  {place?.bridge && `, ${bridgeText(place.bridge)}`}
                </p>
                {place?.remarks.map((remark) => (
                  <p key={remark} className="text-[13px] text-warning">
                    {remark}
                  </p>
                ))}
              </li>
            );
          })}
        </ol>
        <AddSong />
      </Panel>
      <OpenSong />
      <RearrangePanel />
    </>
  );
}

const bridgeText = (bridge: { bars: number; fromBpm: number; toBpm: number }): string =>
  `${counted(bridge.bars, "bar")} together, ${bridge.fromBpm.toFixed(1)} to ${bridge.toBpm.toFixed(1)} BPM`;

function AddSong(): ReactNode {
  const input = useRef<HTMLInputElement>(null);
  const { song } = useListenSong();
  const [isLibraryOpen, setLibraryOpen] = useState(false);
  const show = useOpenShow();
  const { phase, problem } = useAppSelector((state) => state.intake);
  const dispatch = useAppDispatch();
  return (
    <div className="flex flex-col gap-1.5">
      <div className="grid grid-cols-2 gap-2">
        <Button onClick={() => input.current?.click()}>
          <Plus size={14} aria-hidden /> Add a song …
        </Button>
        <Button onClick={() => dispatch(showActions.edited(addSong(show, song)))}>This one again</Button>
        <Button className="col-span-2" onClick={() => setLibraryOpen(true)}>
          From the library …
        </Button>
      </div>
      {isLibraryOpen && <SongLibraryDialog onClose={() => setLibraryOpen(false)} />}
      <input
        ref={input}
        type="file"
        accept="audio/*,video/*"
        multiple
        className="sr-only"
        tabIndex={-1}
        aria-label="Add songs"
        onChange={(event) => {
          void bringIn(chosenFiles(event.target.files), { songs: "add" });
          event.target.value = "";
        }}
      />
      {phase === "running" && <p className="text-[13px] text-quiet">Bringing it in and listening to it …</p>}
      {problem && <p className="text-[13px] text-error">{problem}</p>}
    </div>
  );
}

/** Order, trim, entry and fades of the song that is open. Trims go to the nearest bar start. */
function OpenSong(): ReactNode {
  const { song, analysis, grid, change } = useListenSong();
  const show = useOpenShow();
  const player = usePlayer();
  const index = show.songs.findIndex(({ id }) => id === song.id);
  const set = (values: SongChange): void => change(() => values);
  const atBar = (): number => nearestBar(grid, player.filmSeconds());
  // A trim that would leave nothing takes the other end away.
  const startAt = (start: number): void =>
    set({
      trimStartSeconds: start,
      trimEndSeconds: song.trimEndSeconds !== null && song.trimEndSeconds <= start ? null : song.trimEndSeconds,
    });
  const endAt = (end: number): void =>
    set({ trimStartSeconds: song.trimStartSeconds >= end ? 0 : song.trimStartSeconds, trimEndSeconds: end });
  return (
    <Panel title="This song" aside={<SongActions index={index} song={song} />}>
      <div className="flex flex-col gap-3 text-[13px]">
        <UsedPart song={song} analysis={analysis} onStart={startAt} atBar={atBar} onEnd={endAt} onChange={set} />
        {index > 0 && (
          <div>
            <h3 className="mb-1 font-sans text-quiet">Crossfade from the song before</h3>
            <Choice
              label="Crossfade from the song before"
              value={song.entry.kind === "gap" ? "gap" : String(song.entry.bars)}
              options={ENTRIES}
              onChange={(value) =>
                set({
                  entry: value === "gap" ? { kind: "gap", seconds: 0 } : { kind: "crossfade", bars: Number(value) },
                })
              }
            />
          </div>
        )}
        {song.entry.kind === "gap" && <Gap song={song} onChange={(entry) => set({ entry })} />}
        <Fades song={song} set={set} />
      </div>
    </Panel>
  );
}

interface UsedPartProps {
  song: ShowSong;
  analysis: MusicAnalysis;
  onStart: (start: number) => void;
  atBar: () => number;
  onEnd: (end: number) => void;
  onChange: (values: SongChange) => void;
}

/** Which part of the song is used. */
function UsedPart({ song, analysis, onStart, atBar, onEnd, onChange }: UsedPartProps): ReactNode {
  return (
    <div>
      <div className="mb-1 flex justify-between text-quiet">
        <h3 className="font-sans">Used</h3>
        <span>
          {song.trimStartSeconds.toFixed(2)} to {(song.trimEndSeconds ?? analysis.musicEndSeconds).toFixed(2)} s
        </span>
      </div>
      <div className="grid grid-cols-3 gap-2">
        <Button title="At the bar start nearest to the playhead" onClick={() => onStart(atBar())}>
          Start here
        </Button>
        <Button className="px-1" title="At the bar start nearest to the playhead" onClick={() => onEnd(atBar())}>
          End here
        </Button>
        <Button kind="quiet" onClick={() => onChange({ trimStartSeconds: 0, trimEndSeconds: null })}>
          All of it
        </Button>
      </div>
    </div>
  );
}

interface SongActionsProps {
  index: number;
  song: ShowSong;
}

/** Its place among the songs. */
function SongActions({ index, song }: SongActionsProps): ReactNode {
  const dispatch = useAppDispatch();
  const show = useOpenShow();
  return (
    <span className="flex">
      <IconButton
        label="Earlier"
        disabled={index <= 0}
        onClick={() => dispatch(showActions.edited(shiftSong(show, song.id, -1)))}
      >
        <ArrowUp size={15} />
      </IconButton>
      <IconButton
        label="Later"
        disabled={index === show.songs.length - 1}
        onClick={() => dispatch(showActions.edited(shiftSong(show, song.id, 1)))}
      >
        <ArrowDown size={15} />
      </IconButton>
      <IconButton
        label="Remove this song"
        disabled={show.songs.length < 2}
        onClick={() => dispatch(showActions.edited(removeSong(show, song.id)))}
      >
        <Trash2 size={15} />
      </IconButton>
    </span>
  );
}

function Gap({ song, onChange }: { song: ShowSong; onChange: (entry: ShowSong["entry"]) => void }): ReactNode {
  const seconds = song.entry.kind === "gap" ? song.entry.seconds : 0;
  return (
    <LineField
      label="Silence before it, in seconds"
      type="number"
      min={0}
      max={600}
      step={0.5}
      value={seconds}
      onChange={(event) => {
        const value = event.target.valueAsNumber;
        if (value >= 0 && value <= 600) onChange({ kind: "gap", seconds: value });
      }}
    />
  );
}

function Fades({ song, set }: { song: ShowSong; set: (values: SongChange) => void }): ReactNode {
  return (
    <>
      <div className="flex items-center justify-between gap-2">
        <h3 className="font-sans text-quiet">Fade in, bars</h3>
        <Choice
          label="Fade in, bars"
          value={String(song.fadeInBars)}
          options={FADE_INS}
          onChange={(value) => set({ fadeInBars: Number(value) })}
        />
      </div>
      <div>
        <h3 className="mb-1 font-sans text-quiet">Fade out, bars</h3>
        <Choice
          label="Fade out, bars"
          value={song.fadeOutBars === null ? "rule" : String(song.fadeOutBars)}
          options={FADE_OUTS}
          onChange={(value) => set({ fadeOutBars: value === "rule" ? null : Number(value) })}
        />
      </div>
    </>
  );
}
