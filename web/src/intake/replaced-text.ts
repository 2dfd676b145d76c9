import type { MediaFacts } from "@humming-tide/contract";
import type { Slide } from "@humming-tide/core/show";

/** What has stayed on a slide whose file was replaced, and what could not. */
export function replacedText(
  before: Slide,
  { fileName, kind }: { readonly fileName: string; readonly kind: MediaFacts["kind"] | null },
): string {
  const lost =
    before.clip !== null && kind !== "clip"
      ? " The chosen part of the clip comes back with the clip."
      : before.clip !== null
        ? " The new clip is shown whole."
        : "";
  return `“${fileName}” has taken the place of “${before.fileName}”. All that you decided about the slide stays.${lost}`;
}
