import { type Delivery, isUnderWay } from "@humming-tide/contract";
import { timeLeftText } from "@humming-tide/core/time";
import { Disc3, ExternalLink, MonitorUp } from "lucide-react";
import { type ReactNode, useState } from "react";
import { api } from "../../../api.ts";
import { Button } from "../../../ui/Button.tsx";
import { Notice } from "../../../ui/Notice.tsx";
import { ProgressBar } from "../../../ui/ProgressBar.tsx";

const STATES: Readonly<Record<Delivery["state"], string>> = {
  queued: "waiting",
  running: "on its way",
  paused: "paused",
  failed: "failed",
  cancelled: "stopped",
  done: "done",
};

/** One film on its way out: how far it is, or what came of it. */
export function DeliveryCard({ delivery }: { delivery: Delivery }): ReactNode {
  const { id, wish, state, step, progress, secondsLeft, error, remark, place, fileName } = delivery;
  const [failure, setFailure] = useState<string | null>(null);
  const run = (action: Promise<void>): void =>
    void action.then(
      () => setFailure(null),
      (cause: Error) => setFailure(cause.message),
    );
  const isActive = isUnderWay(delivery);
  const Icon = wish.kind === "video" ? MonitorUp : Disc3;
  return (
    <article
      className="rounded-lg border border-line bg-raised px-4 py-3"
      data-testid="delivery"
      data-kind={wish.kind}
      data-state={state}
    >
      <div className="flex items-baseline justify-between gap-3">
        <h3 className="flex min-w-0 items-center gap-2 text-[16px]" title={fileName}>
          <Icon size={17} aria-hidden className="shrink-0 text-soft" />
          <span className="truncate">{wish.kind === "video" ? wish.title : wish.label}</span>
        </h3>
        <span className="shrink-0 text-[13px] text-quiet">
          {wish.kind === "video" ? wish.visibility : wish.onlyFolder ? "folder of a disc" : "disc"}, {STATES[state]}
        </span>
      </div>
      {isActive && (
        <DeliveryProgress
          fileName={fileName}
          progress={progress}
          step={step}
          secondsLeft={secondsLeft}
          onRun={run}
          id={id}
        />
      )}
      {state === "done" && <p className="mt-1 text-[13px] text-soft">{step}.</p>}
      <DeliveryPlace place={place} wish={wish} />
      {remark && (
        <div className="mt-2">
          <Notice kind="warning">{remark}</Notice>
        </div>
      )}
      {(failure ?? error) && (
        <div className="mt-2">
          <Notice kind="error">{failure ?? error}</Notice>
        </div>
      )}
      {(state === "paused" || state === "failed") && (
        <StoppedActions id={id} isPaused={state === "paused"} onRun={run} />
      )}
    </article>
  );
}

interface DeliveryPlaceProps {
  place: string | null;
  wish: Delivery["wish"];
}

/** Where it is now. */
function DeliveryPlace({ place, wish }: DeliveryPlaceProps): ReactNode {
  return (
    <>
      {place !== null && wish.kind === "video" && (
        <a
          href={place}
          target="_blank"
          rel="noreferrer"
          className="mt-1.5 inline-flex items-center gap-1.5 text-[13px] underline underline-offset-2"
        >
          <ExternalLink size={14} aria-hidden /> {place}
        </a>
      )}
      {place !== null && wish.kind === "disc" && (
        <p className="mt-1.5 text-[13px] break-all text-soft">The folder of the disc: {place}</p>
      )}
    </>
  );
}

interface DeliveryProgressProps {
  fileName: string;
  progress: number;
  step: string;
  secondsLeft: number | null;
  onRun: (action: Promise<void>) => void;
  id: string;
}

/** How far it is, and a way to stop it. */
function DeliveryProgress({ fileName, progress, step, secondsLeft, onRun, id }: DeliveryProgressProps): ReactNode {
  return (
    <div className="mt-2 flex items-center gap-4">
      <div className="flex-1">
        <ProgressBar label={`Delivery of ${fileName}`} share={progress} />
        <p className="mt-1 text-[13px] text-soft">
          {step}, {Math.floor(100 * progress)} %{secondsLeft === null ? "" : `, ${timeLeftText(secondsLeft)} left`}
        </p>
      </div>
      <Button onClick={() => onRun(api.cancelDelivery(id))}>Stop</Button>
    </div>
  );
}

interface StoppedActionsProps {
  id: string;
  isPaused: boolean;
  onRun: (action: Promise<void>) => void;
}

/** What can be done with a delivery that stands still. */
function StoppedActions({ id, isPaused, onRun }: StoppedActionsProps): ReactNode {
  return (
    <div className="mt-2 flex gap-2">
      <Button onClick={() => onRun(api.resumeDelivery(id))}>{isPaused ? "Go on" : "Try again"}</Button>
      {isPaused && (
        <Button kind="quiet" onClick={() => onRun(api.cancelDelivery(id))}>
          Cancel
        </Button>
      )}
    </div>
  );
}
