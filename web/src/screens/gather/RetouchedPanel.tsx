import { counted } from "@humming-tide/core/language";
import { valueFor } from "@humming-tide/core/presence";
import { type RetouchedFiles, retouchedFiles, swapFiles } from "@humming-tide/core/show";
import { ArrowRight } from "lucide-react";
import { type ReactNode, useMemo } from "react";
import { mediaUrl } from "../../api.ts";
import { intakeActions } from "../../intake/intake-slice.ts";
import { edit } from "../../store/edit.ts";
import { useOpenShow } from "../../store/open-show.ts";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";
import { viewActions } from "../../store/view-slice.ts";
import { Button } from "../../ui/Button.tsx";
import { Panel } from "../../ui/Panel.tsx";
import { SlideImage } from "../../ui/SlideImage.tsx";

/** Retouched files that came in: which pictures they would replace, before anything happens. */
export function RetouchedPanel(): ReactNode {
  const dispatch = useAppDispatch();
  const isComing = useAppSelector(({ intake: { phase } }) => phase === "running" || phase === "announcing");
  const found = useRetouched();
  if (!found) return null;
  const { matched, unmatched, unchanged } = found;
  const done = (): void => void dispatch(intakeActions.retouchedDecided());
  const replace = (): void => {
    edit((show) => swapFiles(show, new Map(matched.map(({ slideId, file }) => [slideId, file]))));
    dispatch(viewActions.toastShown(`${counted(matched.length, "picture")} replaced. All else on the slides stays.`));
    done();
  };
  return (
    <Panel title="Retouched pictures" aside={<span className="text-[13px] text-quiet">{matched.length}</span>}>
      {matched.length === 0 ? (
        <p className="text-[13px] text-soft">None of these files has the name or the time of a picture in this show.</p>
      ) : (
        <MatchList matched={matched} />
      )}
      {unmatched.length > 0 && (
        <p className="mt-2 text-[13px] break-words text-warning">
          {counted(unmatched.length, "file")} without a picture here:{" "}
          {unmatched
            .slice(0, NAMED)
            .map(({ fileName }) => fileName)
            .join(", ")}
          {unmatched.length > NAMED && " …"}
        </p>
      )}
      {unchanged > 0 && <p className="mt-2 text-[13px] text-quiet">{counted(unchanged, "file")} as before.</p>}
      <div className="mt-3 flex flex-wrap gap-2">
        <Button kind="primary" disabled={matched.length === 0 || isComing} onClick={replace}>
          Replace {counted(matched.length, "picture")}
        </Button>
        <Button kind="quiet" onClick={done}>
          Cancel
        </Button>
      </div>
    </Panel>
  );
}

/** So many names are told. */
const NAMED = 4;

/** Null while no retouched files wait. */
function useRetouched(): RetouchedFiles | null {
  const waiting = useAppSelector((state) => state.intake.retouched);
  const show = useOpenShow();
  const media = useAppSelector((state) => state.show.media);
  return useMemo(() => {
    if (waiting.length === 0) return null;
    const capturedAtOf = (sha256: string): string | null => {
      const facts = media[sha256];
      return facts && "capturedAt" in facts ? facts.capturedAt : null;
    };
    return retouchedFiles(show, waiting, capturedAtOf);
  }, [waiting, show, media]);
}

/** Old beside new, in the order of the film. */
function MatchList({ matched }: Pick<RetouchedFiles, "matched">): ReactNode {
  const slides = useOpenShow((show) => show.slides);
  const slideOf = useMemo(() => new Map(slides.map((slide) => [slide.id, slide])), [slides]);
  return (
    <ul className="flex max-h-[320px] flex-col gap-2 overflow-y-auto" aria-label="Pictures and what replaces them">
      {matched.map(({ slideId, formerName, file, by }) => (
        <li key={slideId} className="flex items-center gap-2 text-xs text-soft">
          <SlideImage
            slide={valueFor(slideOf, slideId)}
            className="h-10 w-14 shrink-0 rounded bg-slide object-contain"
          />
          <ArrowRight size={14} aria-hidden className="shrink-0 text-quiet" />
          <img
            src={mediaUrl(file.sha256, "thumbnail")}
            alt=""
            loading="lazy"
            className="h-10 w-14 shrink-0 rounded bg-slide object-contain"
          />
          <span className="min-w-0 break-words">
            <bdi>{formerName}</bdi>
            <span className="block text-quiet">{by === "name" ? <bdi>{file.fileName}</bdi> : "by its time"}</span>
          </span>
        </li>
      ))}
    </ul>
  );
}
