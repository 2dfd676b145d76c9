import { clockText, framesPerSecond } from "@humming-tide/core/time";
import type { ReactNode } from "react";
import { Link } from "react-router";
import { useExportsQuery } from "../../server-state/server-state.ts";
import { useShowId } from "../../store/open-show.ts";
import { useAppSelector } from "../../store/store.ts";
import { Panel } from "../../ui/Panel.tsx";

/** What comes after the pictures and the song: said until the show's first film is exported. */
export function NextStep(): ReactNode {
  const showId = useShowId();
  const plan = useAppSelector((state) => state.view.plan);
  const { data: exported } = useExportsQuery(showId);
  if (!plan || !exported || exported.length > 0) return null;
  const length = clockText(plan.totalFrames / framesPerSecond(plan.rate));
  return (
    <Panel title="Next">
      <p className="text-[13px] text-soft">
        The film is laid and lasts {length}.{" "}
        <Link className="text-ink underline underline-offset-2" to="../score">
          Watch it on the Score
        </Link>
        , or{" "}
        <Link className="text-ink underline underline-offset-2" to="../hand-over?part=films">
          export it
        </Link>
        .
      </p>
    </Panel>
  );
}
