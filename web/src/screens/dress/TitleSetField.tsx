import { FIRST_STYLE, type Letters, TITLE_SETS, type TitleSet } from "@humming-tide/core/show";
import { RadioGroup } from "radix-ui";
import { type ReactNode, useEffect, useRef, useState } from "react";
import { filmFonts } from "../../stage/film-fonts.ts";
import { clearCanvas } from "../../stage/stage-words.ts";
import { TITLE_SET_NAMES } from "../../style/style-words.ts";

const ONE_FONT = "one-font";
const SAMPLE = "Firefly\nclosing night";
/** A sample's frame, in pixels of the page. */
const FRAME = { width: 124, height: 62 };
/** Small frames show letters at the size of a film, so samples are set larger. */
const SAMPLE_SIZE = 2;

interface TitleSetFieldProps {
  label: string;
  value: TitleSet | null;
  letters: Letters;
  /** What is chosen where no title set is. */
  none: string;
  onChange: (value: TitleSet | null) => void;
}

/** A title set, chosen by how it looks. */
export function TitleSetField({ label, value, letters, none, onChange }: TitleSetFieldProps): ReactNode {
  return (
    <RadioGroup.Root
      aria-label={label}
      value={value ?? ONE_FONT}
      onValueChange={(next) => onChange(next === ONE_FONT ? null : (next as TitleSet))}
      className="grid grid-cols-2 gap-2"
    >
      {TITLE_SETS.map((titleSet) => (
        <Tile key={titleSet} value={titleSet} name={TITLE_SET_NAMES[titleSet]}>
          <Sample letters={{ ...FIRST_STYLE.letters, titleSet }} />
        </Tile>
      ))}
      <Tile value={ONE_FONT} name={none}>
        <Sample letters={{ ...letters, titleSet: null, shadow: 0, outline: null, backing: null }} />
      </Tile>
    </RadioGroup.Root>
  );
}

function Tile({ value, name, children }: { value: string; name: string; children: ReactNode }): ReactNode {
  return (
    <RadioGroup.Item
      value={value}
      className="flex flex-col items-stretch overflow-hidden rounded-md border border-line-strong/60 text-left hover:border-soft data-[state=checked]:border-ink data-[state=checked]:outline-2 data-[state=checked]:outline-ink"
    >
      {children}
      <span className="truncate px-2 py-1 text-[13px] text-ink">{name}</span>
    </RadioGroup.Item>
  );
}

/** Words of a title set on a dark ground, by the same engine that draws films. */
function Sample({ letters }: { letters: Letters }): ReactNode {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [arrivals, setArrivals] = useState(0);
  useEffect(() => {
    const again = (): void => setArrivals((count) => count + 1);
    filmFonts.addEventListener("arrived", again);
    return () => filmFonts.removeEventListener("arrived", again);
  }, []);
  // biome-ignore lint/correctness/useExhaustiveDependencies: fonts that arrive are a reason to draw again
  useEffect(() => {
    const timer = setTimeout(() => canvas.current && drawSample(canvas.current, letters));
    return () => clearTimeout(timer);
  }, [letters, arrivals]);
  return (
    <canvas
      ref={canvas}
      width={FRAME.width * 2}
      height={FRAME.height * 2}
      aria-hidden
      className="aspect-[2/1] w-full bg-[#16333d]"
    />
  );
}

function drawSample(canvas: HTMLCanvasElement, letters: Letters): void {
  const { room, fonts } = filmFonts;
  if (!room || !fonts) {
    // Opens the engine, which says when it is there.
    filmFonts.preload([]);
    return;
  }
  const designed = room.designWords({ kind: "title", text: SAMPLE, place: "middle", size: SAMPLE_SIZE }, letters);
  const words = { ...designed, shadow: 0, backing: null };
  filmFonts.preload([words]);
  const frame = { width: canvas.width, height: canvas.height };
  const laid = room.laySheet([words], frame, fonts)?.[0];
  const context = canvas.getContext("2d");
  if (!laid || !context) return;
  const own = clearCanvas(frame.width, frame.height);
  room.drawLaidWords(own, laid, words, { scale: 1, x: 0, y: 0 }, clearCanvas);
  context.clearRect(0, 0, frame.width, frame.height);
  context.drawImage(own.image, 0, 0);
}
