import type { MarkerKind, MarkerOrigin } from "@humming-tide/core/show";

export const KIND_CHOICES: readonly { readonly value: MarkerKind; readonly label: string; readonly hint: string }[] = [
  { value: "cut", label: "cut", hint: "A picture should change here" },
  { value: "accent", label: "accent", hint: "Something strong happens here" },
  { value: "section", label: "section", hint: "A part of the song begins here" },
  { value: "note", label: "note", hint: "Only a remark" },
];

export const ORIGIN_WORDS: Readonly<Record<MarkerOrigin, string>> = {
  detected: "heard",
  tapped: "tapped",
  placed: "put by hand",
  imported: "from a file",
};

/** "1:02.345": a place in a song, to the millisecond. */
export function placeText(seconds: number): string {
  const millis = Math.round(seconds * 1000);
  const rest = ((millis % 60_000) / 1000).toFixed(3).padStart(6, "0");
  return `${Math.floor(millis / 60_000)}:${rest}`;
}
