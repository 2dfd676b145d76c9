import { clockText } from "@humming-tide/core/time";
import type { ReactNode } from "react";
import { Link } from "react-router";
import { Transport } from "../../stage/Transport.tsx";
import { useAppSelector } from "../../store/store.ts";
import { EmptyState } from "../../ui/EmptyState.tsx";
import { Notice } from "../../ui/Notice.tsx";
import { Corrections } from "./Corrections.tsx";
import { Doubts } from "./Doubts.tsx";
import { Heard } from "./Heard.tsx";
import { SongCurve } from "./SongCurve.tsx";

/** The song's waveform and grid, from the whole down to a few seconds, and the gestures that put the grid right. */
export function ListenScreen(): ReactNode {
  const song = useAppSelector((state) => state.show.document!.song);
  const { analysis, peaks, failure } = useAppSelector((state) => state.song);
  const plan = useAppSelector((state) => state.view.plan);
  if (!song || failure) {
    return (
      <EmptyState
        title={failure ? "The song cannot be read" : "No song yet"}
        action={
          <Link className="underline" to="../gather">
            To Gather
          </Link>
        }
      >
        {failure ?? "Bring one in on Gather; it is listened to at once."}
      </EmptyState>
    );
  }
  if (!analysis || !peaks) return <p className="p-10 text-quiet">Fetching what was heard …</p>;
  return (
    <div className="flex h-full min-h-0">
      <div className="flex min-w-0 flex-1 flex-col">
        <div className="flex min-h-0 flex-1 flex-col gap-5 px-5 py-4">
          <h1 className="truncate text-xl" title={song.fileName}>
            {song.fileName.replace(/\.\w+$/, "")}{" "}
            <span className="ml-2 font-sans text-[13px] text-quiet">{clockText(analysis.durationSeconds)}</span>
          </h1>
          {!analysis.steady && (
            <Notice kind="warning">No steady beat was found in this song. Pictures are spread evenly over it.</Notice>
          )}
          <SongCurve plan={plan} />
        </div>
        {plan ? (
          <Transport plan={plan} />
        ) : (
          <p className="border-t border-line px-5 py-3 text-[13px] text-quiet">
            It can be played once there is a picture to show with it.
          </p>
        )}
      </div>
      <aside className="w-[300px] shrink-0 overflow-y-auto border-l border-line bg-raised">
        <Heard />
        {analysis.steady && <Doubts />}
        <Corrections disabled={!analysis.steady} />
      </aside>
    </div>
  );
}
