import { Slider as RadixSlider } from "radix-ui";
import type { ReactNode } from "react";

interface SliderProps {
  label: string;
  /** What the value means, beside the label. */
  text: string;
  value: number;
  min: number;
  max: number;
  step: number;
  onChange: (value: number) => void;
}

/** A value on a line that is drawn or moved by arrow keys. */
export function Slider({ label, text, value, min, max, step, onChange }: SliderProps): ReactNode {
  return (
    <div>
      <div className="mb-1 flex justify-between text-[13px]">
        <span className="text-soft">{label}</span>
        <span className="text-ink tabular-nums">{text}</span>
      </div>
      <RadixSlider.Root
        value={[value]}
        min={min}
        max={max}
        step={step}
        onValueChange={([next]) => next !== undefined && onChange(next)}
        className="relative flex h-5 w-full touch-none items-center select-none"
      >
        <RadixSlider.Track className="relative h-1 grow rounded-full bg-line-strong/50">
          <RadixSlider.Range className="absolute h-full rounded-full bg-soft" />
        </RadixSlider.Track>
        <RadixSlider.Thumb
          aria-label={label}
          aria-valuetext={text}
          className="block size-4 rounded-full border-2 border-ground bg-ink shadow"
        />
      </RadixSlider.Root>
    </div>
  );
}
