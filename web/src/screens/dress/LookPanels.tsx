import { type Edge, type Graphic, LOOK_KINDS, type Look, OVERLAY_KINDS, type Overlay } from "@humming-tide/core/show";
import { ImageUp } from "lucide-react";
import { type ReactNode, useRef, useState } from "react";
import { api } from "../../api.ts";
import { showActions } from "../../store/show-slice.ts";
import { useAppDispatch } from "../../store/store.ts";
import type { StylePart } from "../../style/style-part.ts";
import { Button } from "../../ui/Button.tsx";
import { Choice } from "../../ui/Choice.tsx";
import { ColourField } from "../../ui/ColourField.tsx";
import { PlaceField } from "../../ui/PlaceField.tsx";
import { ShareSlider } from "../../ui/ShareSlider.tsx";
import { Slider } from "../../ui/Slider.tsx";
import { StylePanel } from "./StylePanel.tsx";

const LOOK_NAMES: Readonly<Record<Look["kind"], string>> = {
  none: "As taken",
  warm: "Warm",
  cool: "Cool",
  monochrome: "Monochrome",
  faded: "Faded",
};

interface KindFieldProps<Kind extends string> {
  part: StylePart<{ kind: Kind | "none"; strength: number }>;
  label: string;
  names: Readonly<Record<Kind | "none", string>>;
  kinds: readonly (Kind | "none")[];
  /** What has the strength, in words. */
  of: string;
}

/** One of some kinds, and how strongly. */
function KindAndStrength<Kind extends string>({ part, label, names, kinds, of }: KindFieldProps<Kind>): ReactNode {
  const { value, set, slide } = part;
  return (
    <>
      <Choice
        label={label}
        value={value.kind}
        options={kinds.map((kind) => ({ value: kind, label: names[kind] }))}
        onChange={(kind) => set({ ...value, kind })}
      />
      {value.kind !== "none" && (
        <div className="mt-3">
          <ShareSlider
            label={`Strength of the ${of}`}
            value={value.strength}
            onChange={(strength) => slide({ ...value, strength })}
          />
        </div>
      )}
    </>
  );
}

/** The tone of all pictures. */
export function LookPanel({ part }: { part: StylePart<Look> }): ReactNode {
  const { value, slide } = part;
  return (
    <StylePanel title="Tone" part={part}>
      <KindAndStrength
        part={withRest(part)}
        label="Tone of the pictures"
        names={LOOK_NAMES}
        kinds={LOOK_KINDS}
        of="tone"
      />
      <div className="mt-3">
        <ShareSlider
          label="Levels, to black and white"
          none="off"
          value={value.levels}
          onChange={(levels) => slide({ ...value, levels })}
        />
      </div>
      <p className="mt-1 text-xs text-quiet">Levels spread each picture’s own tones, gently. Clips keep theirs.</p>
    </StylePanel>
  );
}

/** A look as something with a kind and a strength: what else it has stays. */
const withRest = (part: StylePart<Look>): StylePart<Pick<Look, "kind" | "strength">> => ({
  ...part,
  set: (next) => part.set({ ...part.value, ...next }),
  slide: (next) => part.slide({ ...part.value, ...next }),
});

const EDGES = [
  { value: "none", label: "None" },
  { value: "border", label: "Thin border", hint: "A line along the picture’s edge" },
  { value: "mat", label: "Mat", hint: "Pictures stand on a mat, as in a frame" },
] as const;

/** What runs around pictures. */
export function EdgePanel({ part }: { part: StylePart<Edge> }): ReactNode {
  const { value, set, slide } = part;
  const choose = (kind: Edge["kind"]): void => {
    if (kind === "none") set({ kind });
    else if (kind === "border") set({ kind, colour: "#f3e9d4", width: 0.006 });
    else set({ kind, colour: "#f3e9d4", width: 0.05 });
  };
  return (
    <StylePanel title="Border" part={part}>
      <Choice label="Border of the pictures" value={value.kind} options={EDGES} onChange={choose} />
      {value.kind !== "none" && (
        <div className="mt-3 flex flex-col gap-3">
          <ColourField
            label={`Colour of the ${value.kind}`}
            value={value.colour}
            onChange={(colour) => slide({ ...value, colour })}
          />
          <Slider
            label="Width"
            text={`${(100 * value.width).toFixed(1)} %`}
            value={value.width}
            min={value.kind === "border" ? 0.001 : 0.01}
            max={value.kind === "border" ? 0.03 : 0.2}
            step={value.kind === "border" ? 0.001 : 0.005}
            onChange={(width) => slide({ ...value, width })}
          />
        </div>
      )}
    </StylePanel>
  );
}

const OVERLAY_NAMES: Readonly<Record<Overlay["kind"], string>> = {
  none: "None",
  glow: "Glow",
  confetti: "Confetti",
  grain: "Grain",
};

/** What moves lightly over pictures. */
export function OverlayPanel({ part }: { part: StylePart<Overlay> }): ReactNode {
  return (
    <StylePanel title="Over the picture" part={part}>
      <KindAndStrength
        part={part}
        label="Over the picture"
        names={OVERLAY_NAMES}
        kinds={OVERLAY_KINDS}
        of={part.value.kind}
      />
    </StylePanel>
  );
}

/** A monogram or an ornament of one's own. */
export function GraphicPanel({ part }: { part: StylePart<Graphic> }): ReactNode {
  const { value, set, slide } = part;
  const dispatch = useAppDispatch();
  const input = useRef<HTMLInputElement>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [isBusy, setBusy] = useState(false);
  const choose = async (file: File): Promise<void> => {
    setBusy(true);
    setProblem(null);
    try {
      const facts = await api.sendGraphic(file);
      dispatch(showActions.mediaArrived([facts]));
      const { sha256, fileName } = facts;
      const kept = value.kind === "own" ? value : { place: "bottom-right", size: 0.16, opacity: 0.9 };
      set({ ...kept, kind: "own", sha256, fileName } as Graphic);
    } catch (error) {
      setProblem((error as Error).message);
    } finally {
      setBusy(false);
    }
  };
  return (
    <StylePanel title="Graphic of your own" part={part}>
      <input
        ref={input}
        type="file"
        accept="image/png,image/webp,image/*"
        aria-label="File of the graphic"
        className="sr-only"
        tabIndex={-1}
        onChange={({ target }) => {
          const file = target.files?.[0];
          if (file) void choose(file);
          target.value = "";
        }}
      />
      <div className="flex items-center justify-between gap-2">
        <span className="min-w-0 truncate text-[13px] text-soft">
          {value.kind === "own" ? <bdi>{value.fileName}</bdi> : "A PNG with a clear ground"}
        </span>
        <Button className="shrink-0" disabled={isBusy} onClick={() => input.current?.click()}>
          <ImageUp size={14} aria-hidden /> {isBusy ? "Bringing in …" : value.kind === "own" ? "Another …" : "Choose …"}
        </Button>
      </div>
      {problem && (
        <p role="alert" className="mt-2 text-[13px] text-warning">
          {problem}
        </p>
      )}
      {value.kind === "own" && <GraphicFields value={value} set={set} slide={slide} />}
    </StylePanel>
  );
}

interface GraphicFieldsProps {
  value: Extract<Graphic, { kind: "own" }>;
  set: (value: Graphic) => void;
  slide: (value: Graphic) => void;
}

/** Where it lies, how large and how clear it is. */
function GraphicFields({ value, set, slide }: GraphicFieldsProps): ReactNode {
  return (
    <>
      <div className="mt-3 flex items-center gap-4">
        <PlaceField label="Place of the graphic" value={value.place} onChange={(place) => set({ ...value, place })} />
        <div className="flex flex-1 flex-col gap-2">
          <ShareSlider
            label="Size of the graphic"
            value={value.size}
            min={0.02}
            step={0.01}
            onChange={(size) => slide({ ...value, size })}
          />
          <ShareSlider label="Opacity" value={value.opacity} onChange={(opacity) => slide({ ...value, opacity })} />
        </div>
      </div>
      <Button kind="quiet" className="mt-1 -ml-3" onClick={() => set({ kind: "none" })}>
        No graphic
      </Button>
    </>
  );
}
