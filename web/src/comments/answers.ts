import type { RevisionSummary, StudioComment, StudioVersion } from "@humming-tide/contract";
import { changeText, describeChange, describeSlideChange, type ShowDocument } from "@humming-tide/core/show";
import { api } from "../api.ts";

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
 * What was changed between the film that a client spoke of and the one that answers it, in short
 * phrases: at the slide, else in the whole show. Empty where nothing was.
 */
export function answerText(before: ShowDocument, after: ShowDocument, slideId: string): string {
  const atSlide = describeSlideChange(before, after, slideId);
  return (atSlide.length > 0 ? atSlide : describeChange(before, after)).map(changeText).join(", ");
}

/**
 * What answers comments that are done, by the comment's id. Left out are those whose revisions are
 * not known. Each revision is fetched once.
 */
export async function answersTo(
  showId: string,
  comments: readonly StudioComment[],
  versions: readonly StudioVersion[],
): Promise<ReadonlyMap<string, string>> {
  const known = new Map<number, Promise<ShowDocument>>();
  const documentAt = (revision: number): Promise<ShowDocument> => {
    const asked = known.get(revision) ?? api.documentAt(showId, revision);
    known.set(revision, asked);
    return asked;
  };
  const spokenOf = new Map<number, Promise<number | null>>();
  const revisionOf = (number: number): Promise<number | null> => {
    const version = versions.find((other) => other.number === number);
    if (!version) return Promise.resolve(null);
    const asked = spokenOf.get(number) ?? revisionAt(version.createdAt, (before) => api.revisions(showId, before));
    spokenOf.set(number, asked);
    return asked;
  };
  const answers = new Map<string, string>();
  for (const { id, threadId, version, slideId, doneRevision } of comments) {
    if (threadId !== null || doneRevision === null) continue;
    const from = await revisionOf(version);
    if (from === null) continue;
    answers.set(id, answerText(await documentAt(from), await documentAt(doneRevision), slideId));
  }
  return answers;
}
