import type { Output } from "@humming-tide/contract";
import type { FilmPlan } from "@humming-tide/core/film";
import { shapeOf } from "@humming-tide/core/picture";
import type { ShowDocument } from "@humming-tide/core/show";
import { clockText, frameRateName, NAMED_FRAME_RATES } from "@humming-tide/core/time";
import type { ReactNode } from "react";
import { showActions } from "../../store/show-slice.ts";
import { useAppDispatch } from "../../store/store.ts";
import { Button } from "../../ui/Button.tsx";
import { Choice } from "../../ui/Choice.tsx";
import { Fact, Panel } from "../../ui/Panel.tsx";
import {
  CONTAINERS,
  isSameOutput,
  outputText,
  RATE_NAMES,
  SHARPNESS,
  shapeName,
  shapesFor,
  sharpnessOf,
  sizeOf,
} from "./outputs.ts";

interface ExportPanelProps {
  show: ShowDocument;
  plan: FilmPlan;
  output: Output;
  onChange: (output: Output) => void;
  onExport: () => void;
}

/** What the next film is exported as. Several may be asked for one after another: the show stays as it is. */
export function ExportPanel({ show, plan, output, onChange, onExport }: ExportPanelProps): ReactNode {
  const dispatch = useAppDispatch();
  const { size, frameRate, container } = output;
  const shape = shapeOf(size);
  const seconds = (plan.totalFrames * plan.rate.den) / plan.rate.num;
  return (
    <Panel title="Export a film">
      <Part title="Shape">
        <Choice
          label="Shape"
          value={shape}
          options={shapesFor(show.size).map((value) => ({ value, label: value, hint: shapeName(value) }))}
          onChange={(next) => onChange({ ...output, size: sizeOf(next, Math.min(size.width, size.height)) })}
        />
      </Part>
      <Part title="Size">
        <Choice
          label="Size"
          value={sharpnessOf(size)}
          options={SHARPNESS}
          onChange={(next) => onChange({ ...output, size: sizeOf(shape, Number(next)) })}
        />
      </Part>
      <Part title="Frames per second">
        <Choice
          label="Frames per second"
          value={frameRateName(frameRate)}
          options={RATE_NAMES.map((rate) => ({ value: rate, label: rate }))}
          onChange={(rate) =>
            onChange({ ...output, frameRate: { ...NAMED_FRAME_RATES[rate as keyof typeof NAMED_FRAME_RATES] } })
          }
        />
      </Part>
      <Part title="File">
        <Choice
          label="File"
          value={container}
          options={CONTAINERS.map(({ value, label, codecs }) => ({ value, label, hint: codecs }))}
          onChange={(next) => onChange({ ...output, container: next })}
        />
      </Part>
      <dl className="mt-3 border-t border-line pt-2">
        <Fact label="Picture">{`${size.width} × ${size.height}`}</Fact>
        <Fact label="Packed as">{CONTAINERS.find(({ value }) => value === container)!.codecs}</Fact>
        <Fact label="Length">{clockText(seconds)}</Fact>
        <Fact label="Frames">{Math.round((seconds * frameRate.num) / frameRate.den)}</Fact>
        <Fact label="Changes">{plan.slots.length - 1}</Fact>
        <Fact label="Music fades from">{plan.sound.fadeOut.startSeconds.toFixed(1)} s</Fact>
      </dl>
      <Button kind="primary" className="mt-3 w-full" onClick={onExport}>
        Export
      </Button>
      {!isSameOutput(output, show) && (
        <div className="mt-4 border-t border-line pt-3 text-[13px] text-quiet">
          <p>The show itself is laid and seen as {outputText(show)}.</p>
          <Button
            kind="quiet"
            className="-ml-3"
            onClick={() => dispatch(showActions.edited({ ...show, size, frameRate: { ...frameRate } }))}
          >
            Lay the show as {outputText(output)}
          </Button>
        </div>
      )}
    </Panel>
  );
}

function Part({ title, children }: { title: string; children: ReactNode }): ReactNode {
  return (
    <div className="mt-3 first:mt-0">
      <h3 className="mb-1 font-sans text-[13px] text-quiet">{title}</h3>
      <div className="-ml-2.5">{children}</div>
    </div>
  );
}
