import type { FilmPlan } from "@humming-tide/core/film";
import { shapeOf } from "@humming-tide/core/picture";
import { addOutput, CONTAINER_FACTS, changeOutput, type FilmOutput, removeOutput } from "@humming-tide/core/show";
import { clockText, frameRateName, NAMED_FRAME_RATES } from "@humming-tide/core/time";
import { Copy, Trash2 } from "lucide-react";
import type { ReactNode } from "react";
import { edit } from "../../../store/edit.ts";
import { newId } from "../../../store/new-id.ts";
import { useOpenShow } from "../../../store/open-show.ts";
import { Button, IconButton } from "../../../ui/Button.tsx";
import { Choice } from "../../../ui/Choice.tsx";
import { Field } from "../../../ui/Field.tsx";
import { Fact, Panel } from "../../../ui/Panel.tsx";
import { Tick } from "../../../ui/Tick.tsx";
import {
  CONTAINERS,
  outputText,
  QUALITY_CHOICES,
  RATE_NAMES,
  SHARPNESS,
  shapeName,
  shapesFor,
  sharpnessOf,
  sizeOf,
} from "./output-words.ts";
import { PartFields } from "./PartFields.tsx";
import { FIRST_WATERMARK, WatermarkFields } from "./WatermarkFields.tsx";

/** What one output is: its picture, its file, and what is otherwise in it than in the show. */
export function OutputPanel({ output, plan }: { output: FilmOutput; plan: FilmPlan }): ReactNode {
  const show = useOpenShow();
  const { id, size, frameRate, container, quality, captions, loops, part } = output;
  const shape = shapeOf(size);
  const change = (next: Partial<Omit<FilmOutput, "id">>, tag: string | null = null): void =>
    edit((document) => changeOutput(document, id, next), tag);
  const seconds = part ? part.endSeconds - part.startSeconds : (plan.totalFrames * plan.rate.den) / plan.rate.num;
  return (
    <Panel title={output.name} aside={<OutputActions output={output} id={id} />}>
      <Field
        label="Name"
        value={output.name}
        maxLength={80}
        onChange={({ target }) => target.value.trim() !== "" && change({ name: target.value }, `output name ${id}`)}
      />
      <PictureParts shape={shape} onChange={change} size={size} frameRate={frameRate} />
      <Part title="File">
        <Choice label="File" value={container} options={CONTAINERS} onChange={(next) => change({ container: next })} />
      </Part>
      {CONTAINER_FACTS[container].hasQuality && (
        <Part title="Quality">
          <Choice
            label="Quality"
            value={quality}
            options={QUALITY_CHOICES}
            onChange={(next) => change({ quality: next })}
          />
        </Part>
      )}
      <div className="mt-3 flex flex-col gap-2 border-t border-line pt-3">
        <Tick label="Captions of pictures" checked={captions} onChange={(next) => change({ captions: next })} />
        <Tick label="Loop" checked={loops} onChange={(next) => change({ loops: next })} />
        <WatermarkFields
          watermark={output.watermark}
          first={FIRST_WATERMARK}
          tag={`watermark ${id}`}
          onChange={(watermark, tag) => change({ watermark }, tag)}
        />
        <PartFields part={part} onChange={(next, tag) => change({ part: next }, tag)} />
      </div>
      <dl className="mt-3 border-t border-line pt-2">
        <Fact label="Length">{clockText(seconds)}</Fact>
        <Fact label="Frames">{Math.round((seconds * frameRate.num) / frameRate.den).toLocaleString("en")}</Fact>
      </dl>
      {!isLaidAs(output, show) && (
        <p className="mt-2 text-[13px] text-quiet">
          The show itself is laid and seen as {outputText(show)}.{" "}
          <Button
            kind="quiet"
            className="-ml-3 text-left"
            onClick={() => edit((document) => ({ ...document, size, frameRate: { ...frameRate } }))}
          >
            Lay the show as {outputText(output)}
          </Button>
        </p>
      )}
    </Panel>
  );
}

interface PicturePartsProps {
  shape: string;
  onChange: (next: Pick<Partial<FilmOutput>, "size" | "frameRate">) => void;
  size: FilmOutput["size"];
  frameRate: FilmOutput["frameRate"];
}

/** Shape, size and rate of the picture. */
function PictureParts({ shape, onChange, size, frameRate }: PicturePartsProps): ReactNode {
  const show = useOpenShow();
  return (
    <>
      <Part title="Shape">
        <Choice
          label="Shape"
          value={shape}
          options={shapesFor(show.size).map((value) => ({ value, label: value, hint: shapeName(value) }))}
          onChange={(next) => onChange({ size: sizeOf(next, Math.min(size.width, size.height)) })}
        />
      </Part>
      <Part title="Size">
        <Choice
          label="Size"
          value={sharpnessOf(size)}
          options={SHARPNESS}
          onChange={(next) => onChange({ size: sizeOf(shape, Number(next)) })}
        />
      </Part>
      <Part title="Frames per second">
        <Choice
          label="Frames per second"
          value={frameRateName(frameRate)}
          options={RATE_NAMES.map((rate) => ({ value: rate, label: rate }))}
          onChange={(rate) => onChange({ frameRate: { ...NAMED_FRAME_RATES[rate as keyof typeof NAMED_FRAME_RATES] } })}
        />
      </Part>
    </>
  );
}

interface OutputActionsProps {
  output: FilmOutput;
  id: string;
}

/** Another one like it, or none of it. */
function OutputActions({ output, id }: OutputActionsProps): ReactNode {
  return (
    <span className="-my-1 flex">
      <IconButton
        label="Duplicate"
        onClick={() =>
          edit((document) => addOutput(document, { ...output, id: newId(), name: `${output.name} 2`.slice(0, 80) }))
        }
      >
        <Copy size={15} />
      </IconButton>
      <IconButton label={`Remove ${output.name}`} onClick={() => edit((document) => removeOutput(document, id))}>
        <Trash2 size={15} />
      </IconButton>
    </span>
  );
}

const isLaidAs = (a: Pick<FilmOutput, "size" | "frameRate">, b: Pick<FilmOutput, "size" | "frameRate">): boolean =>
  a.size.width === b.size.width &&
  a.size.height === b.size.height &&
  a.frameRate.num * b.frameRate.den === b.frameRate.num * a.frameRate.den;

function Part({ title, children }: { title: string; children: ReactNode }): ReactNode {
  return (
    <div className="mt-3">
      <h3 className="mb-1 font-sans text-[13px] text-quiet">{title}</h3>
      <div>{children}</div>
    </div>
  );
}
