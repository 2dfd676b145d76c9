import { arrangeSongs, filmSecondsOf } from "@humming-tide/core/arrange";
import { counted } from "@humming-tide/core/language";
import type { ShowSong, SongChange, SongJoin } from "@humming-tide/core/show";
import { plainSound } from "@humming-tide/core/sound";
import { clockText, framesToCover } from "@humming-tide/core/time";
import { Headphones, X } from "lucide-react";
import { type ReactNode, useCallback, useEffect, useRef, useState } from "react";
import { usePlayer } from "../../stage/player-context.tsx";
import { useOpenShow } from "../../store/open-show.ts";
import { Button, IconButton } from "../../ui/Button.tsx";
import { Choice } from "../../ui/Choice.tsx";
import { LineField } from "../../ui/Field.tsx";
import { Panel } from "../../ui/Panel.tsx";
import { useListenSong } from "./listen-song.tsx";
import type { RearrangeAnswer, RearrangeRequest } from "./rearrange-worker.ts";

const FINISHES = [
  { value: "bars", label: "by whole bars", hint: "Within two bars, at the recorded tempo" },
  { value: "tempo", label: "by tempo", hint: "Exactly, with a change of tempo of less than 1 %" },
  { value: "fade", label: "by a fade", hint: "Exactly: it fades out over its last two bars" },
] as const;
type Finish = (typeof FINISHES)[number]["value"];

/** What a wished length changes about a song, undone. */
const asRecorded = ({ trimEndSeconds }: ShowSong): SongChange => ({
  joins: [],
  speed: 1,
  ...(trimEndSeconds === null ? {} : { trimEndSeconds: null, fadeOutBars: null }),
});

/** Heard before and behind a join. */
const AROUND_SECONDS = 4;

/**
 * Shortens or lengthens the open song at bar lines where it is not heard; each join can be heard
 * and refused.
 */
export function RearrangePanel(): ReactNode {
  const { song, analysis, grid, change } = useListenSong();
  const [minutes, setMinutes] = useState("");
  const [finish, setFinish] = useState<Finish>("bars");
  const [said, setSaid] = useState("");
  const { ask, likeness } = useRearranging(setSaid);
  const hear = useJoinListening();
  const wished = parsedLength(minutes);
  const find = (refused: readonly SongJoin[]): void => {
    if (wished !== null) ask({ analysis, grid, joins: [], wish: { seconds: wished, finish, refused } });
  };
  const refuse = (join: SongJoin): void => {
    const refused = [...song.refusedJoins, join];
    const joins = song.joins.filter((other) => other !== join);
    // Without it tempo and end were changed for nothing.
    change((before) => ({ ...asRecorded(before), refusedJoins: refused, joins }));
    find(refused);
  };
  // An end that sinks is what is made here; another one was put by hand.
  const isTrimmed = song.trimStartSeconds > 0 || (song.trimEndSeconds !== null && song.fadeOutBars === null);
  return (
    <Panel title="Change length">
      <div className="flex flex-col gap-2 text-[13px]">
        <LineField
          label="Wanted length, such as 2:30"
          value={minutes}
          placeholder={clockText(analysis.musicEndSeconds)}
          onChange={(event) => setMinutes(event.target.value)}
        />
        <Choice label="How the length is met" value={finish} options={FINISHES} onChange={setFinish} />
        <Button disabled={wished === null || isTrimmed} onClick={() => find(song.refusedJoins)}>
          Find the joins
        </Button>
        {isTrimmed && (
          <p className="text-quiet">Take “All of it” first: joins lead from the beginning to the real ending.</p>
        )}
        <JoinList song={song} likeness={likeness} onHear={hear} onRefuse={refuse} />
        {(song.joins.length > 0 || song.speed !== 1) && (
          <Button kind="quiet" onClick={() => change((before) => ({ ...asRecorded(before), refusedJoins: [] }))}>
            Original length
          </Button>
        )}
        <p aria-live="polite" className="min-h-5 text-soft">
          {said}
        </p>
      </div>
    </Panel>
  );
}

interface JoinListProps {
  song: ShowSong;
  likeness: readonly (number | null)[];
  onHear: (join: SongJoin) => void;
  onRefuse: (join: SongJoin) => void;
}

/** The joins, each to be heard or refused. */
function JoinList({ song, likeness, onHear, onRefuse }: JoinListProps): ReactNode {
  return (
    <ul aria-label="Joins">
      {song.joins.map((join, index) => (
        <li key={`${join.fromSeconds} ${join.toSeconds}`} className="flex items-center justify-between text-ink">
          <span>
            {clockText(join.fromSeconds)} to {clockText(join.toSeconds)}
            <span className="ml-2 text-quiet">
              {typeof likeness[index] === "number" && `${Math.round(100 * likeness[index])} % alike`}
            </span>
          </span>
          <span className="flex">
            <IconButton label={`Hear join ${index + 1}`} onClick={() => onHear(join)}>
              <Headphones size={14} />
            </IconButton>
            <IconButton label={`Not join ${index + 1}`} onClick={() => onRefuse(join)}>
              <X size={14} />
            </IconButton>
          </span>
        </li>
      ))}
    </ul>
  );
}

/** "2:30", "150" or "2:30.5" as seconds; null for anything else. */
function parsedLength(text: string): number | null {
  const match = /^(?:(\d{1,2}):)?(\d{1,4}(?:\.\d+)?)$/.exec(text.trim());
  const total = match ? 60 * Number(match[1] ?? 0) + Number(match[2]) : 0;
  return total >= 4 ? total : null;
}

/** Asks the worker; what it finds becomes the song's joins as one undo step. */
function useRearranging(say: (text: string) => void): {
  ask: (request: RearrangeRequest) => void;
  likeness: readonly (number | null)[];
} {
  const { song, analysis, grid, change } = useListenSong();
  const worker = useRef<Worker | null>(null);
  const [likeness, setLikeness] = useState<readonly (number | null)[]>([]);
  useEffect(() => {
    const own = new Worker(new URL("./rearrange-worker.ts", import.meta.url), { type: "module" });
    own.onmessage = ({ data }: MessageEvent<RearrangeAnswer>) => {
      if (data.kind === "measured") setLikeness(data.likeness);
      else if (data.kind === "failed") say(data.message);
      else {
        const { speed, trimEndSeconds, fadeOutBars } = data;
        change((before) => ({
          joins: [...data.joins],
          speed,
          // A person's own fade stays, unless an end was made here, now or before.
          ...(trimEndSeconds !== null || before.trimEndSeconds !== null ? { trimEndSeconds, fadeOutBars } : {}),
        }));
        const joins = data.joins.length === 1 ? "one join" : `${data.joins.length} joins`;
        const tempo = data.speed === 1 ? "" : `, ${(100 * (data.speed - 1)).toFixed(2)} % in tempo`;
        const fade = fadeOutBars === null ? "" : `, fading out over its last ${counted(fadeOutBars, "bar")}`;
        say(`${clockText(data.lengthSeconds)} with ${joins}${tempo}${fade}.`);
      }
    };
    worker.current = own;
    return () => own.terminate();
  }, [change, say]);
  useEffect(() => {
    if (song.joins.length > 0) worker.current?.postMessage({ analysis, grid, wish: null, joins: song.joins });
  }, [song.joins, analysis, grid]);
  const ask = useCallback((request: RearrangeRequest) => worker.current?.postMessage(request), []);
  return { ask, likeness };
}

/**
 * Plays the song as it is arranged, round and round over a join; stopping brings back the song as
 * recorded.
 */
function useJoinListening(): (join: SongJoin) => void {
  const { song, analysis } = useListenSong();
  const player = usePlayer();
  const rate = useOpenShow((show) => show.frameRate);
  const end = useRef<(() => void) | null>(null);
  useEffect(() => () => end.current?.(), []);
  return (join) => {
    end.current?.();
    const music = arrangeSongs([{ ...song, entry: { kind: "gap", seconds: 0 } }], () => analysis);
    const at = filmSecondsOf(music, { songId: song.id, seconds: join.fromSeconds - 0.05, turn: 0 });
    if (at === null) return;
    const { lengthSeconds } = music;
    const loop = {
      startSeconds: Math.max(0, at - AROUND_SECONDS),
      endSeconds: Math.min(lengthSeconds, at + AROUND_SECONDS),
    };
    const [track, wish] = [player.track, player.wish];
    let hasPlayed = false;
    const onState = (): void => {
      if (player.state === "ready" && !hasPlayed) {
        hasPlayed = true;
        player.seek(loop.startSeconds);
        void player.play();
      } else if (player.state === "ready") end.current?.();
    };
    end.current = () => {
      end.current = null;
      player.removeEventListener("state", onState);
      player.setSolo(track);
      player.setWish(wish);
    };
    player.setWish({ loop });
    player.setSolo({
      key: `joins of ${song.id} ${join.fromSeconds} ${join.toSeconds}`,
      sound: plainSound(music.pieces, lengthSeconds),
      rate,
      totalFrames: Math.max(1, framesToCover(lengthSeconds, rate)),
      beats: music.grid.beats,
    });
    player.addEventListener("state", onState);
  };
}
