import { counted } from "@humming-tide/core/language";
import { itemAt, lastOf, present } from "@humming-tide/core/presence";
import { timeLeftText } from "@humming-tide/core/time";
import { useVirtualizer } from "@tanstack/react-virtual";
import { type ReactNode, useEffect, useMemo, useRef, useState } from "react";
import { forgetAll, goOn, stop } from "../../intake/intake.ts";
import { type IntakeItem, type IntakeSummary, summaryOf } from "../../intake/intake-slice.ts";
import { useAppSelector } from "../../store/store.ts";
import { Button } from "../../ui/Button.tsx";
import { Notice } from "../../ui/Notice.tsx";
import { Panel } from "../../ui/Panel.tsx";
import { ProgressBar } from "../../ui/ProgressBar.tsx";

const STATES: Readonly<Record<IntakeItem["state"], string>> = {
  waiting: "waiting",
  sending: "coming in …",
  in: "in",
  asks: "what is it for?",
  "already-there": "already there",
  refused: "not taken in",
};
/** What needs an eye first, then what is moving, then the rest. */
const RANK: Readonly<Record<IntakeItem["state"], number>> = {
  refused: 0,
  asks: 1,
  sending: 2,
  "already-there": 3,
  in: 4,
  waiting: 5,
};

/**
 * What is coming in, what became of each file, how long it will take, and a way to stop and go on.
 */
export function IntakePanel(): ReactNode {
  const state = useAppSelector((root) => root.intake);
  const [now, setNow] = useState(Date.now);
  const active = state.phase === "running" || state.phase === "announcing" || state.phase === "server-away";
  useEffect(() => {
    if (!active) return;
    const timer = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(timer);
  }, [active]);
  if (state.order.length === 0) {
    if (state.leftFromBefore > 0) return <LeftFromBefore count={state.leftFromBefore} />;
    if (state.phase === "announcing") return <Panel title="Bringing in">Checking the files …</Panel>;
    return state.problem ? (
      <Panel title="Bringing in">
        <Notice kind="error">{state.problem}</Notice>
      </Panel>
    ) : null;
  }
  const summary = summaryOf(state, now);
  const open = summary.waiting + summary.sending;
  return (
    <Panel
      title={open > 0 ? "Bringing in" : "Brought in"}
      aside={
        active ? (
          <Button onClick={stop}>Stop</Button>
        ) : open > 0 ? (
          <span className="flex gap-1">
            <Button kind="quiet" onClick={forgetAll}>
              Forget
            </Button>
            <Button kind="primary" onClick={goOn}>
              Go on
            </Button>
          </span>
        ) : (
          <Button kind="quiet" onClick={forgetAll}>
            Clear
          </Button>
        )
      }
    >
      <p className="text-[13px] text-soft" role="status" data-testid="intake-summary">
        {countsText(summary)}
      </p>
      {open > 0 && <IntakeProgress summary={summary} />}
      {state.problem && (
        <div className="mt-2">
          <Notice kind="error">{state.problem}</Notice>
        </div>
      )}
      <FileList rows={state.rows} order={state.order} />
    </Panel>
  );
}

interface IntakeProgressProps {
  summary: IntakeSummary;
}

/** How far it is, and how long it will take. */
function IntakeProgress({ summary }: IntakeProgressProps): ReactNode {
  const state = useAppSelector((root) => root.intake);
  return (
    <>
      <div className="mt-2">
        <ProgressBar label="Brought in" share={summary.share} />
      </div>
      <p className="mt-1 text-xs text-quiet">{phaseText(state.phase, summary)}</p>
    </>
  );
}

function LeftFromBefore({ count }: { count: number }): ReactNode {
  return (
    <Panel
      title="Bringing in"
      aside={
        <Button kind="quiet" onClick={forgetAll}>
          Dismiss
        </Button>
      }
    >
      <p className="text-[13px] text-soft">
        {counted(count, "file")} of last time did not come in before this page was closed. Drop the same folder again:
        only what is missing is sent.
      </p>
    </Panel>
  );
}

function countsText(summary: IntakeSummary): string {
  const parts = [
    `${summary.in + summary.alreadyThere + summary.refused} of ${summary.total} files`,
    summary.in > 0 && `${summary.in} in`,
    summary.alreadyThere > 0 && `${summary.alreadyThere} already there`,
    summary.refused > 0 && `${summary.refused} not taken in`,
  ];
  return parts.filter(Boolean).join(" · ");
}

function phaseText(phase: string, summary: IntakeSummary): string {
  if (phase === "server-away") return "The server does not answer. The files go on when it does.";
  if (phase === "stopped") return "Stopped. What is in stays in.";
  if (phase === "blocked") return "Waiting until that is put right.";
  if (phase === "announcing") return "Checking the files …";
  return summary.secondsLeft === null ? "Judging the time left …" : `${timeLeftText(summary.secondsLeft)} left`;
}

const ROW_HEIGHT = 24;
const MESSAGE_HEIGHT = 60;

function FileList({
  rows,
  order,
}: {
  rows: Readonly<Record<string, IntakeItem>>;
  order: readonly string[];
}): ReactNode {
  const sorted = useMemo(
    () => order.map((id) => present(rows[id])).sort((a, b) => RANK[a.state] - RANK[b.state]),
    [rows, order],
  );
  const box = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: sorted.length,
    getScrollElement: () => box.current,
    estimateSize: (index) => (itemAt(sorted, index).message ? ROW_HEIGHT + MESSAGE_HEIGHT : ROW_HEIGHT),
    getItemKey: (index) => itemAt(sorted, index).id,
    overscan: 6,
  });
  return (
    <div ref={box} className="mt-2 max-h-[320px] overflow-y-auto" tabIndex={0} role="list" aria-label="Files">
      <div className="relative" style={{ height: virtual.getTotalSize() }}>
        {virtual.getVirtualItems().map((item) => {
          const row = itemAt(sorted, item.index);
          const name = lastOf(row.path.split("/"));
          return (
            <div
              key={row.id}
              ref={virtual.measureElement}
              data-index={item.index}
              data-testid="intake-file"
              data-state={row.state}
              role="listitem"
              className="absolute inset-x-0 py-0.5 text-[13px]"
              style={{ transform: `translateY(${item.start}px)` }}
            >
              <div className="flex justify-between gap-2">
                <bdi className="truncate" title={row.path}>
                  {name}
                </bdi>
                <span className={`shrink-0 ${row.state === "refused" ? "text-error" : "text-quiet"}`}>
                  {row.state === "sending" && row.sent > 0 && row.sent < 1
                    ? `${Math.round(row.sent * 100)} %`
                    : STATES[row.state]}
                </span>
              </div>
              {row.message && <p className={row.state === "refused" ? "text-error" : "text-quiet"}>{row.message}</p>}
            </div>
          );
        })}
      </div>
    </div>
  );
}
