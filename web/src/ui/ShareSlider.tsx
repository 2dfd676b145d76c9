import type { ReactNode } from "react";
import { Slider } from "./Slider.tsx";

interface ShareSliderProps {
  label: string;
  value: number;
  min?: number;
  max?: number;
  step?: number;
  /** What nothing is called; "0 %" without. */
  none?: string;
  onChange: (value: number) => void;
}

/** A share of something, said in percent. */
export function ShareSlider({ min = 0, max = 1, step = 0.05, none, ...rest }: ShareSliderProps): ReactNode {
  const text = none !== undefined && rest.value === 0 ? none : `${Math.round(100 * rest.value)} %`;
  return <Slider text={text} min={min} max={max} step={step} {...rest} />;
}
