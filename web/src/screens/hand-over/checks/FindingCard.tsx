import { applyFix, type Finding, findingText, fixLabel } from "@humming-tide/core/check";
import { present } from "@humming-tide/core/presence";
import { hasPicture } from "@humming-tide/core/show";
import { clockText } from "@humming-tide/core/time";
import type { ReactNode } from "react";
import { useNavigate } from "react-router";
import { edit } from "../../../store/edit.ts";
import { selectionActions } from "../../../store/selection-slice.ts";
import { useAppDispatch, useAppSelector } from "../../../store/store.ts";
import { Button } from "../../../ui/Button.tsx";
import { SlideImage } from "../../../ui/SlideImage.tsx";
import { SIGNS } from "./signs.ts";

/** One thing that was found: where, why, by how much, and what puts it right. */
export function FindingCard({ finding }: { finding: Finding }): ReactNode {
  const { place, severity } = finding;
  const navigate = useNavigate();
  const dispatch = useAppDispatch();
  const slide = useAppSelector((state) => present(state.show.document).slides.find(({ id }) => id === place.slideId));
  const { Icon, tone, name } = SIGNS[severity];
  const show = (): void => {
    if (place.slideId !== null) dispatch(selectionActions.picked({ slideId: place.slideId, round: 0 }));
    void navigate("../score");
  };
  return (
    <article
      className="flex gap-3 rounded-lg border border-line bg-raised px-3 py-2.5"
      data-testid="finding"
      data-kind={finding.kind}
    >
      <Icon size={17} aria-label={name} className={`mt-0.5 shrink-0 ${tone}`} />
      {slide && hasPicture(slide) && (
        <SlideImage slide={slide} className="h-12 w-[72px] shrink-0 rounded object-cover" />
      )}
      <div className="min-w-0 flex-1">
        <p className="text-[14px] leading-5 break-words">{findingText(finding)}</p>
        <div className="mt-1.5 flex flex-wrap items-center gap-x-2 gap-y-1.5">
          {finding.fixes.map((fix) => (
            <Button key={fix.kind} onClick={() => edit((document) => applyFix(document, fix))}>
              {fixLabel(finding, fix)}
            </Button>
          ))}
          {slide && slide.rating !== "out" && (
            <Button kind="quiet" onClick={show}>
              Show it on the Score
            </Button>
          )}
          <span className="ml-auto text-xs text-quiet tabular-nums">
            {[
              ...(place.outputs.length > 0 ? [place.outputs.join(", ")] : []),
              ...(place.seconds === null ? [] : [`at ${clockText(place.seconds)}`]),
            ].join(", ")}
          </span>
        </div>
      </div>
    </article>
  );
}
