import type { FilmPlan } from "@humming-tide/core/film";
import type { Pace } from "@humming-tide/core/show";
import type { ReactNode } from "react";
import { showActions } from "../../store/show-slice.ts";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";
import { Button } from "../../ui/Button.tsx";
import { Choice } from "../../ui/Choice.tsx";
import { Panel } from "../../ui/Panel.tsx";

type PaceChoice = "auto" | "bar" | "1" | "2" | "4" | "8";

const OPTIONS = [
  { value: "auto", label: "Best fit", hint: "Every picture once, changes on beats, bar starts preferred" },
  { value: "bar", label: "A bar" },
  { value: "1", label: "1 beat" },
  { value: "2", label: "2 beats" },
  { value: "4", label: "4 beats" },
  { value: "8", label: "8 beats" },
] as const;

/** How long slides stand, whether that suits the song, and the ways out where it does not. */
export function PacePanel({ plan }: { plan: FilmPlan }): ReactNode {
  const dispatch = useAppDispatch();
  const document = useAppSelector((state) => state.show.document)!;
  const setPace = (pace: Pace): void => void dispatch(showActions.edited({ ...document, pace }));
  const value = document.pace.kind === "beats" ? String(document.pace.count) : document.pace.kind;
  return (
    <Panel title="Pace" aside={<span className="text-[13px] text-quiet">the song leads</span>}>
      <div className="-ml-2.5">
        <Choice
          label="How long a picture stands"
          value={value as PaceChoice}
          options={OPTIONS}
          onChange={(next) =>
            setPace(next === "auto" || next === "bar" ? { kind: next } : { kind: "beats", count: Number(next) })
          }
        />
      </div>
      <ul className="mt-2 flex flex-col gap-2 text-[13px]" aria-live="polite">
        {plan.messages.map((message) => (
          <li key={message.kind}>
            <span className={message.kind === "agreement" ? "text-soft" : "text-warning"}>{message.text}</span>
            {message.waysOut.length > 0 && (
              <span className="mt-1.5 flex flex-wrap gap-2">
                {message.waysOut.map((way) => (
                  <Button key={way.text} onClick={() => setPace(way.pace)}>
                    {way.text}
                  </Button>
                ))}
              </span>
            )}
          </li>
        ))}
      </ul>
    </Panel>
  );
}
