import { counted } from "@humming-tide/core/language";
import { itemAt, valueFor } from "@humming-tide/core/presence";
import type { Slide } from "@humming-tide/core/show";
import type { ReactNode } from "react";
import { useOpenShow } from "../../store/open-show.ts";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";
import { Button } from "../../ui/Button.tsx";
import { Panel } from "../../ui/Panel.tsx";
import { gatherActions, selectGather } from "./gather-slice.ts";
import { holdsClip, isSoft, seenFacts } from "./slide-facts.ts";
import { WholeClips, wholeClips } from "./WholeClips.tsx";

/** Points out pictures that may want a second look. It never changes or drops one. */
export function CullingHintsPanel(): ReactNode {
  const dispatch = useAppDispatch();
  const moments = useAppSelector((state) => selectGather(state).moments);
  const slides = useOpenShow((show) => show.slides);
  const media = useAppSelector((state) => state.show.media);
  const inReach = new Map(slides.map((slide) => [slide.id, slide]));
  // A group with at most one picture still in the film is done.
  const open = moments
    .map((group) => group.filter((id) => inReach.has(id)))
    .filter((group) => group.filter((id) => valueFor(inReach, id).rating !== "out").length > 1);
  const soft = slides.filter((slide) => slide.rating !== "out" && isSoft(seenFacts(media, slide)));
  const moving = slides.filter((slide) => slide.rating !== "out" && holdsClip(seenFacts(media, slide)));
  const clips = wholeClips(slides, media);
  if (open.length + soft.length + moving.length + clips.length === 0) return null;
  const compare = (ids: readonly string[]): void =>
    void dispatch(gatherActions.largeViewSet({ ids, at: 0, compare: true }));
  return (
    <Panel title="Worth a second look">
      <ul className="flex flex-col gap-1 text-[13px]">
        {soft.length > 0 && <LookAt text={counted(soft.length, "soft picture")} slides={soft} />}
        {moving.length > 0 && (
          <LookAt
            text={`${counted(moving.length, "picture")} with a short clip inside`}
            hint="“Replace picture …” shows the clip in the picture’s place"
            slides={moving}
          />
        )}
        {clips.length > 0 && <WholeClips slides={clips} />}
        {open.slice(0, 6).map((group) => (
          <li key={group[0]} className="flex items-center justify-between gap-2" data-testid="moment">
            <span className="min-w-0 truncate text-soft" title={valueFor(inReach, itemAt(group, 0)).fileName}>
              {group.length} of the same moment
            </span>
            <Button kind="quiet" onClick={() => compare(group)}>
              Compare {group.length}
            </Button>
          </li>
        ))}
      </ul>
      {open.length > 6 && (
        <p className="mt-1 text-xs text-quiet">
          and {open.length - 6} more groups, shown as these are settled; all are marked “alike” on the sheet
        </p>
      )}
    </Panel>
  );
}

/** Slides in one line, and the way to see them large, one after the other. */
function LookAt({ text, hint, slides }: { text: string; hint?: string; slides: readonly Slide[] }): ReactNode {
  const dispatch = useAppDispatch();
  const ids = slides.map(({ id }) => id);
  return (
    <li className="flex items-center justify-between gap-2">
      <span className="text-soft" title={hint}>
        {text}
      </span>
      <Button kind="quiet" onClick={() => dispatch(gatherActions.largeViewSet({ ids, at: 0, compare: false }))}>
        Look
      </Button>
    </li>
  );
}
