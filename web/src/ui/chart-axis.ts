import { themeColour } from "./theme.ts";

/**
 * An upright axis that leaves the room to its lines: few numbers, inside the chart, in quiet
 * colours.
 */
export const quietAxis = () => ({
  ticks: { color: themeColour("ink-quiet"), font: { size: 11 }, maxTicksLimit: 3, mirror: true, z: 1 },
  grid: { color: themeColour("line"), drawTicks: false },
  border: { display: false },
});

/** A chart's `onClick` that goes to the second which is pressed on its x axis. */
export const seekOnClick =
  (seek: (seconds: number) => void) =>
  (
    event: { readonly x: number | null },
    _elements: unknown,
    chart: { readonly scales: Readonly<Record<string, { getValueForPixel(pixel: number): number | undefined }>> },
  ): void => {
    if (event.x !== null) seek(chart.scales["x"]?.getValueForPixel(event.x) ?? 0);
  };
