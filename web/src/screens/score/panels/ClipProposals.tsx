import { isUnderWay, type StoredProposal } from "@humming-tide/contract";
import { type ProposedPart, partOfStretch, proposedPart } from "@humming-tide/core/clip-analysis";
import { type Slide, splitClip, takeClipParts } from "@humming-tide/core/show";
import type { ReactNode } from "react";
import { useClipProposalQuery } from "../../../server-state/server-state.ts";
import { edit } from "../../../store/edit.ts";
import { newId } from "../../../store/new-id.ts";
import { useAppSelector } from "../../../store/store.ts";
import { Button } from "../../../ui/Button.tsx";
import { ProgressBar } from "../../../ui/ProgressBar.tsx";
import { withMoment, withoutEnd, withoutStart } from "./clip-part.ts";
import { momentText, secondsText, trimText } from "./clip-words.ts";

interface ClipProposalsProps {
  slide: Slide;
  sha256: string;
  durationSeconds: number;
}

/** What was found in a clip: its moments, bad ends and best parts, each taken with one press. */
export function ClipProposals({ slide, sha256, durationSeconds }: ClipProposalsProps): ReactNode {
  const { data, error, refetch } = useClipProposalQuery(sha256);
  const preparing = useAppSelector((state) => state.view.preparing[sha256]);
  const copy = useAppSelector((state) => state.view.proxies[sha256]);
  if (error && !data)
    return (
      <p className="text-[13px] text-soft" role="alert">
        The clip could not be looked through: {error.message ?? "the server does not answer"}{" "}
        <Button kind="quiet" onClick={() => void refetch()}>
          Try again
        </Button>
      </p>
    );
  if (!data) {
    const isCopied = copy === undefined || !isUnderWay(copy);
    return (
      <div className="flex flex-col gap-1 text-[13px] text-quiet" role="status">
        {isCopied ? "Looking the clip through …" : "Its playable copy is made first …"}
        <ProgressBar
          label={isCopied ? "Share of the clip that was looked through" : "Share of the copy that is made"}
          share={(isCopied ? preparing?.progress : copy.progress) ?? 0}
        />
      </div>
    );
  }
  return <Found slide={slide} proposal={data} durationSeconds={durationSeconds} />;
}

interface FoundProps {
  slide: Slide;
  proposal: StoredProposal;
  durationSeconds: number;
}

function Found({ slide, proposal, durationSeconds }: FoundProps): ReactNode {
  const { moments, start, end, stretches } = proposal;
  const whole = proposedPart(proposal, durationSeconds);
  if (!whole && stretches.length === 0)
    return <p className="text-[13px] text-quiet">Nothing stands out in this clip, and both its ends are good.</p>;
  const now: ProposedPart = slide.clip ?? { inSeconds: 0, outSeconds: null, momentSeconds: null };
  const take = (part: ProposedPart): void => edit((show) => takeClipParts(show, new Map([[slide.id, part]])));
  const choice = (label: string, part: ProposedPart): ReactNode => (
    <Button
      key={label}
      aria-pressed={isSame(part, now)}
      className="justify-start text-left aria-pressed:border-lantern"
      onClick={() => take(part)}
    >
      {label}
    </Button>
  );
  return (
    <div className="flex flex-col gap-1.5" role="group" aria-label="Found in the clip">
      <div className="text-[13px] text-soft">Found in the clip</div>
      {moments.map((moment) => choice(momentText(moment), withMoment(now, moment.seconds)))}
      {start && choice(trimText(start, "start", durationSeconds), withoutStart(now, start.seconds))}
      {end && choice(trimText(end, "end", durationSeconds), withoutEnd(now, durationSeconds - end.seconds))}
      {whole && (start || end) && choice("Take all of this", whole)}
      {stretches.length > 0 && <div className="mt-1 text-[13px] text-soft">Best parts</div>}
      {stretches.map((stretch) =>
        choice(`${secondsText(stretch.startSeconds)} to ${secondsText(stretch.endSeconds)}`, partOfStretch(stretch)),
      )}
      {stretches.length > 1 && (
        <Button
          kind="quiet"
          className="self-end"
          onClick={() =>
            edit((show) => splitClip(show, slide.id, stretches.map(partOfStretch), stretches.slice(1).map(newId)))
          }
        >
          Show {stretches.length === 2 ? "both" : `all ${stretches.length}`}, one after the other
        </Button>
      )}
    </div>
  );
}

const isSame = (a: ProposedPart, b: ProposedPart): boolean =>
  a.inSeconds === b.inSeconds && a.outSeconds === b.outSeconds && a.momentSeconds === b.momentSeconds;
