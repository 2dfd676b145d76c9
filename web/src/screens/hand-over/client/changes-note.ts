import type { StudioComment } from "@humming-tide/contract";
import { changeText, describeChange, type ShowDocument } from "@humming-tide/core/show";
import { clockText } from "@humming-tide/core/time";

/** A note to a version is no longer than this (contract, publishVersionSchema). */
const MOST_LETTERS = 500;
/** Of a comment that is named in a note. */
const MOST_OF_A_COMMENT = 80;

/**
 * What is new for the client since a version, as a note that a person may change: what they asked
 * for and was marked as done since, with what answers it, then what else was changed. Empty where
 * nothing was. `answers` has words by the comment's id.
 */
export function changesNote(
  before: ShowDocument,
  now: ShowDocument,
  comments: readonly StudioComment[],
  version: number,
  answers: ReadonlyMap<string, string> = new Map(),
): string {
  const done = comments
    .filter((comment) => comment.threadId === null && comment.done && comment.version === version)
    .map(({ id, text, seconds }) => {
      const answer = answers.get(id);
      return `“${shortened(text)}” (${clockText(seconds)}${answer ? `: ${answer}` : ""})`;
    });
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
