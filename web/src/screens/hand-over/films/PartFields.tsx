import { partSeconds, songOfPart, strongestPart } from "@humming-tide/core/film";
import { correctedGrid } from "@humming-tide/core/grid";
import { itemAt } from "@humming-tide/core/presence";
import { type FilmPart, SHORT_FILM_SECONDS, type ShowSong } from "@humming-tide/core/show";
import type { ReactNode } from "react";
import { useOpenShow } from "../../../store/open-show.ts";
import { useAppSelector } from "../../../store/store.ts";
import { Choice } from "../../../ui/Choice.tsx";
import { NumberLine } from "../../../ui/NumberLine.tsx";
import { Tick } from "../../../ui/Tick.tsx";

const FIRST_SECONDS = 30;
const LENGTHS = [
  ...SHORT_FILM_SECONDS.map((seconds) => ({
    value: String(seconds),
    label: `${seconds} s`,
    hint: `Exactly ${seconds} seconds; from the last bar on it fades`,
  })),
  { value: "bars", label: "Whole bars", hint: "As many bars as you choose" },
];

const PACES = [
  { value: "own", label: "As in the show", hint: "The paces of the show" },
  { value: "1", label: "1 bar", hint: "A slide a bar" },
  { value: "2", label: "2 bars", hint: "A slide every two bars" },
  { value: "4", label: "4 bars", hint: "A slide every four bars" },
] as const;

interface PartFieldsProps {
  part: FilmPart | null;
  onChange: (part: FilmPart | null, tag?: string) => void;
}

/** A stretch of a song instead of the whole show: a film of its own, with the heroes first. */
export function PartFields({ part, onChange }: PartFieldsProps): ReactNode {
  const songs = useOpenShow((show) => show.songs);
  const heard = useAppSelector((state) => state.song.heard);
  const analysis = (sha256: string): ReturnType<Parameters<typeof strongestPart>[1]> =>
    heard[sha256]?.analysis ?? undefined;
  const strongest = part ? null : strongestPart({ songs }, analysis, FIRST_SECONDS);
  const song = part && songOfPart(songs, part);
  return (
    <>
      <Tick
        label="Only a part of the music"
        checked={part !== null}
        onChange={(next) => {
          if (!next) onChange(null);
          else if (strongest) onChange({ ...strongest, barsPerSlide: 1 });
        }}
      />
      {!part && !strongest && (
        <p className="ml-6 text-xs text-quiet">No song of the show is long enough for that, or none has bars.</p>
      )}
      {part && song && <PartBars part={part} song={song} songs={songs} onChange={onChange} />}
    </>
  );
}

interface PartBarsProps {
  part: FilmPart;
  song: ShowSong;
  songs: readonly ShowSong[];
  onChange: PartFieldsProps["onChange"];
}

function PartBars({ part, song, songs, onChange }: PartBarsProps): ReactNode {
  const analysis = useAppSelector((state) => state.song.heard[song.sha256]?.analysis);
  if (!analysis) return <p className="ml-6 text-xs text-quiet">Listening …</p>;
  const bars = correctedGrid(analysis, song.gridEdits)
    .beats.filter(({ position }) => position === 1)
    .map(({ seconds }) => seconds);
  const first = nearest(bars, part.startSeconds);
  const last = nearest(bars, part.endSeconds);
  const exact = exactLength(partSeconds(part, song));
  const put = (from: number, endSeconds: number): void =>
    onChange({ ...part, songId: song.id, startSeconds: itemAt(bars, from), endSeconds }, "part");
  const putBars = (from: number, to: number): void =>
    put(from, itemAt(bars, Math.min(bars.length - 1, Math.max(from + 1, to))));
  /** It begins where it began, or earlier where the song would end before it. */
  const putSeconds = (from: number, seconds: number): void => {
    const long = seconds * song.speed;
    const latest = bars.findLastIndex((bar) => bar + long <= analysis.musicEndSeconds);
    if (latest >= 0) put(Math.min(from, latest), itemAt(bars, Math.min(from, latest)) + long);
  };
  const putFirst = (from: number): void =>
    exact === null ? putBars(from, from + last - first) : putSeconds(from, exact);
  return (
    <div className="ml-6 flex flex-col gap-2">
      {songs.length > 1 && <PartSong song={song} songs={songs} onChange={onChange} part={part} />}
      <div className="text-[13px] text-quiet">
        Length
        <div className="mt-1">
          <Choice
            label="Length of the film"
            value={exact === null ? "bars" : String(exact)}
            options={LENGTHS.filter(
              ({ value }) =>
                value === "bars" || Number(value) * song.speed <= analysis.musicEndSeconds - (bars[0] ?? 0),
            )}
            onChange={(value) => (value === "bars" ? putBars(first, last) : putSeconds(first, Number(value)))}
          />
        </div>
      </div>
      <NumberLine
        label="From bar"
        min={1}
        max={Math.max(1, bars.length - 1)}
        step={1}
        value={first + 1}
        onChange={(bar) => putFirst(Math.round(bar) - 1)}
      />
      {exact === null && (
        <NumberLine
          label="Bars"
          min={1}
          max={Math.max(1, bars.length - 1 - first)}
          step={1}
          value={last - first}
          onChange={(count) => putBars(first, first + Math.round(count))}
        />
      )}
      <div className="text-[13px] text-quiet">
        Length of a slide
        <div className="mt-1">
          <Choice
            label="Length of a slide"
            value={part.barsPerSlide === null ? "own" : (String(part.barsPerSlide) as (typeof PACES)[number]["value"])}
            options={PACES}
            onChange={(value) => onChange({ ...part, barsPerSlide: value === "own" ? null : Number(value) })}
          />
        </div>
      </div>
      <p className="text-xs text-quiet">
        Slides that find no room are left out of it, heroes last; voices belong to the whole film.
      </p>
    </div>
  );
}

/** The length that was asked for; null: as long as its bars are. */
const exactLength = (seconds: number): number | null =>
  SHORT_FILM_SECONDS.find((asked) => Math.abs(asked - seconds) < 0.001) ?? null;

interface PartSongProps {
  song: ShowSong;
  songs: readonly ShowSong[];
  onChange: (part: FilmPart | null, tag?: string) => void;
  part: FilmPart;
}

/** Which song the part is of. */
function PartSong({ song, songs, onChange, part }: PartSongProps): ReactNode {
  return (
    <label className="flex items-center justify-between gap-3 text-[13px] text-quiet">
      Song
      <select
        value={song.id}
        onChange={({ target }) => {
          const next = songs.find(({ id }) => id === target.value);
          if (next) onChange({ ...part, songId: next.id });
        }}
        className="max-w-[180px] rounded-md border border-line-strong/60 bg-ground px-2 py-1 text-ink"
      >
        {songs.map(({ id, fileName }) => (
          <option key={id} value={id}>
            {fileName}
          </option>
        ))}
      </select>
    </label>
  );
}

function nearest(times: readonly number[], at: number): number {
  let best = 0;
  for (const [index, time] of times.entries())
    if (Math.abs(time - at) < Math.abs((times[best] ?? 0) - at)) best = index;
  return best;
}
