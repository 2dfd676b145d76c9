import { type PaceUnits, paceInUnit, SHORTEST_FAST_SECONDS } from "@humming-tide/core/fit";
import { present } from "@humming-tide/core/presence";
import { DEFAULT_ACCENTS_PER_PHRASE, MOST_ACCENTS_PER_PHRASE, type Pace } from "@humming-tide/core/values";
import { type ReactNode, useId } from "react";
import { Slider } from "../../../ui/Slider.tsx";
import { Tick } from "../../../ui/Tick.tsx";

type Kind = Pace["kind"] | "tapped" | "show";

const KINDS: readonly { readonly kind: Kind; readonly label: string }[] = [
  { kind: "auto", label: "best fit" },
  { kind: "music", label: "following the music" },
  { kind: "beats", label: "beats" },
  { kind: "bars", label: "bars" },
  { kind: "phrases", label: "phrases" },
  { kind: "seconds", label: "seconds" },
  { kind: "accents", label: "one an accent" },
  { kind: "markers", label: "one a marker" },
  { kind: "tapped", label: "one a tap" },
];

interface PaceFieldProps {
  label: string;
  /** Null: as the show has it. */
  pace: Pace | null;
  /** Of the music, so that a number means the same in another unit. */
  units: PaceUnits;
  /** Whether "as the show" may be chosen. */
  mayFollow?: boolean;
  onChange: (pace: Pace | null) => void;
}

/** How long slides stand: what is counted, and how many of it. */
export function PaceField({ label, pace, units, mayFollow = false, onChange }: PaceFieldProps): ReactNode {
  const id = useId();
  const kind: Kind =
    pace === null ? "show" : pace.kind === "markers" && pace.origin === "tapped" ? "tapped" : pace.kind;
  const amount = amountOf(pace);
  return (
    <div className="flex flex-wrap items-center gap-2">
      {amount !== null && (
        <input
          type="number"
          aria-label={`${label}: how many`}
          min={pace?.kind === "seconds" ? 0.2 : 1}
          max={pace?.kind === "seconds" ? 600 : 1000}
          step={pace?.kind === "seconds" ? 0.1 : 1}
          value={amount}
          className="w-16 rounded-md border border-line-strong/60 bg-ground px-2 py-1 text-right text-[13px] text-ink"
          onChange={(event) => {
            const next = withAmount(present(pace), event.target.valueAsNumber);
            if (next) onChange(next);
          }}
        />
      )}
      <select
        id={id}
        aria-label={label}
        value={kind}
        className="min-w-0 flex-1 rounded-md border border-line-strong/60 bg-ground px-2 py-1 text-[13px] text-ink"
        onChange={(event) => onChange(paceOf(event.target.value as Kind, pace, units))}
      >
        {mayFollow && <option value="show">as the show</option>}
        {KINDS.map((option) => (
          <option key={option.kind} value={option.kind}>
            {option.label}
          </option>
        ))}
      </select>
      {(pace?.kind === "auto" || pace?.kind === "music") && (
        <Tick
          label={`Fast: from ${SHORTEST_FAST_SECONDS} s a picture`}
          checked={pace.fast === true}
          onChange={(isFast) => onChange(isFast ? { ...pace, fast: true } : { kind: pace.kind })}
        />
      )}
      {pace?.kind === "accents" && (
        <div className="w-full">
          <Slider
            label="Strongest of each phrase"
            text={pace.perPhrase === MOST_ACCENTS_PER_PHRASE ? "all" : `${pace.perPhrase}`}
            value={pace.perPhrase}
            min={1}
            max={MOST_ACCENTS_PER_PHRASE}
            step={1}
            onChange={(perPhrase) => onChange({ ...pace, perPhrase })}
          />
        </div>
      )}
    </div>
  );
}

function amountOf(pace: Pace | null): number | null {
  if (pace === null) return null;
  if (pace.kind === "seconds") return pace.seconds;
  return pace.kind === "beats" || pace.kind === "bars" || pace.kind === "phrases" ? pace.count : null;
}

function withAmount(pace: Pace, amount: number): Pace | null {
  if (pace.kind === "seconds") return amount >= 0.2 && amount <= 600 ? { ...pace, seconds: amount } : null;
  const isCounted = pace.kind === "beats" || pace.kind === "bars" || pace.kind === "phrases";
  return isCounted && Number.isInteger(amount) && amount >= 1 && amount <= 1000 ? { ...pace, count: amount } : null;
}

/** The pace of another kind; a number is converted. */
function paceOf(kind: Kind, pace: Pace | null, units: PaceUnits): Pace | null {
  switch (kind) {
    case "show":
      return null;
    case "tapped":
      return { kind: "markers", origin: "tapped" };
    case "markers":
      return { kind: "markers", origin: "any" };
    case "beats":
    case "bars":
    case "phrases":
    case "seconds":
      return paceInUnit(pace, kind, units);
    case "auto":
    case "music":
      return { kind };
    case "accents":
      return { kind, perPhrase: DEFAULT_ACCENTS_PER_PHRASE };
  }
}
