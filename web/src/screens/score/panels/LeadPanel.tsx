import { applyFitChange, type FilmPlan } from "@humming-tide/core/film";
import { fitMessageText } from "@humming-tide/core/fit";
import type { Lead } from "@humming-tide/core/show";
import { clockText, frameStart } from "@humming-tide/core/time";
import type { ReactNode } from "react";
import { useOpenShow } from "../../../store/open-show.ts";
import { showActions } from "../../../store/show-slice.ts";
import { useAppDispatch, useAppSelector } from "../../../store/store.ts";
import { Button } from "../../../ui/Button.tsx";
import { Choice } from "../../../ui/Choice.tsx";
import { LineField } from "../../../ui/Field.tsx";
import { Panel } from "../../../ui/Panel.tsx";

const LEADS = [
  {
    value: "song",
    label: "Song",
    hint: "The film is as long as its music; slides stretch, are left out or come again",
  },
  { value: "slides", label: "Slides", hint: "Slides keep their time; the music fades on the bar where they end" },
  { value: "length", label: "Length", hint: "The film is exactly as long as you say; both give" },
] as const;

/** Which side keeps its length, how slides and music agree, and the ways out where they do not. */
export function LeadPanel({ plan }: { plan: FilmPlan }): ReactNode {
  const dispatch = useAppDispatch();
  const document = useOpenShow();
  const waysOut = useAppSelector((state) => state.view.waysOut);
  const setLead = (lead: Lead): void => void dispatch(showActions.edited({ ...document, lead }, "lead"));
  const { lead } = document;
  const filmSeconds = frameStart(plan.totalFrames, plan.rate);
  return (
    <Panel
      title="Who leads"
      aside={<span className="text-[13px] text-quiet tabular-nums">{clockText(filmSeconds)}</span>}
    >
      <Choice
        label="Who leads"
        value={lead.kind}
        options={LEADS}
        onChange={(kind) =>
          setLead(kind === "length" ? { kind, seconds: Math.min(30, Math.round(filmSeconds)) } : { kind })
        }
      />
      {lead.kind === "length" && (
        <div className="mt-2">
          <LineField
            label="Seconds, exactly"
            type="number"
            min={1}
            max={36_000}
            step={1}
            value={lead.seconds}
            onChange={(event) => {
              const seconds = event.target.valueAsNumber;
              if (seconds >= 1 && seconds <= 36_000) setLead({ kind: "length", seconds });
            }}
          />
        </div>
      )}
      <ul className="mt-2 flex flex-col gap-2 text-[13px]" aria-live="polite">
        {plan.messages.map((message) => (
          <li key={fitMessageText(message)} className={message.kind === "agreement" ? "text-soft" : "text-warning"}>
            {fitMessageText(message)}
          </li>
        ))}
      </ul>
      {waysOut.length > 0 && <WaysOut />}
    </Panel>
  );
}

/** Ways to agree, the cheapest first. */
function WaysOut(): ReactNode {
  const waysOut = useAppSelector((state) => state.view.waysOut);
  const dispatch = useAppDispatch();
  const document = useOpenShow();
  return (
    <div className="mt-2 flex flex-col gap-1.5" role="group" aria-label="Ways out, the cheapest first">
      {waysOut.map((way) => (
        <Button
          key={way.text}
          className="justify-start text-left"
          onClick={() => dispatch(showActions.edited(applyFitChange(document, way.change)))}
        >
          {way.text}
        </Button>
      ))}
    </div>
  );
}
