import type { RevisionSummary, StudioComment } from "@humming-tide/contract";
import { changeText, describeChange, type ShowDocument } from "@humming-tide/core/show";
import { clockText } from "@humming-tide/core/time";

/** A note to a version is no longer than this (contract, publishVersionSchema). */
const MOST_LETTERS = 500;
/** Of a comment that is named in a note. */
const MOST_OF_A_COMMENT = 80;

type Saved = Pick<RevisionSummary, "revision" | "savedAt">;

/** Revisions of a show, the newest first; `more`: there are older ones. */
interface RevisionsPage {
  readonly revisions: readonly Saved[];
  readonly more: boolean;
}

/**
 * The number of the revision that a version was made from: the newest that was saved when the
 * version was published. Null where the history does not reach back so far.
 *
 * @param revisions Gives the page of revisions before one, the newest first; null: from the
 *   newest on.
 */
export async function revisionAt(
  publishedAt: string,
  revisions: (before: number | null) => Promise<RevisionsPage>,
): Promise<number | null> {
  const instant = Date.parse(publishedAt);
  let before: number | null = null;
  for (;;) {
    const page: RevisionsPage = await revisions(before);
    const found = page.revisions.find(({ savedAt }) => Date.parse(savedAt) <= instant);
    if (found) return found.revision;
    before = page.revisions.at(-1)?.revision ?? null;
    if (!page.more || before === null) return null;
  }
}

/**
 * What is new for the client since a version, as a note that a person may change: what they asked
 * for and was marked as done since, then what else was changed. Empty where nothing was.
 */
export function changesNote(
  before: ShowDocument,
  now: ShowDocument,
  comments: readonly StudioComment[],
  version: number,
): string {
  const done = comments
    .filter((comment) => comment.threadId === null && comment.done && comment.version === version)
    .map(({ text, seconds }) => `“${shortened(text)}” (${clockText(seconds)})`);
  const changes = describeChange(before, now).map(changeText).join(", ");
  const sentences = [
    ...(done.length > 0 ? [`Done: ${done.join(", ")}.`] : []),
    ...(changes ? [`${changes.charAt(0).toUpperCase()}${changes.slice(1)}.`] : []),
  ];
  const note = sentences.join(" ");
  return note.length > MOST_LETTERS ? `${note.slice(0, MOST_LETTERS - 1)}…` : note;
}

const shortened = (text: string): string => {
  const line = text.replace(/\s+/g, " ").trim();
  return line.length > MOST_OF_A_COMMENT ? `${line.slice(0, MOST_OF_A_COMMENT - 1)}…` : line;
};
