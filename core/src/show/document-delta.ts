import { HummingTideError } from "../failure/index.ts";
import type { ShowDocument } from "./document.ts";

interface Member {
  readonly id: string;
}

/** Lists whose members have ids: their order, where it differs, and the members that are new or differ. */
interface ListDelta {
  readonly order: readonly string[] | null;
  readonly members: readonly Member[];
}

/** What has to change in one document to have another: plain data, small where the edit was. */
export interface DocumentDelta {
  readonly values: Readonly<Record<string, unknown>>;
  readonly lists: Readonly<Record<string, ListDelta>>;
}

const LISTS = ["passages", "slides", "songs", "voices"] as const;
type ListName = (typeof LISTS)[number];
const isList = (key: string): key is ListName => (LISTS as readonly string[]).includes(key);

/** The delta that leads from a document to another. Fields that are the same object cost nothing; O(slides). */
export function deltaBetween(before: ShowDocument, after: ShowDocument): DocumentDelta {
  const values: Record<string, unknown> = {};
  const lists: Record<string, ListDelta> = {};
  for (const key of Object.keys(after) as (keyof ShowDocument)[]) {
    if (before[key] === after[key]) continue;
    if (isList(key)) lists[key] = listDelta(before[key], after[key]);
    else if (JSON.stringify(before[key]) !== JSON.stringify(after[key])) values[key] = after[key];
  }
  return { values, lists };
}

function listDelta(before: readonly Member[], after: readonly Member[]): ListDelta {
  const was = new Map(before.map((member) => [member.id, member]));
  const isSameOrder = before.length === after.length && before.every(({ id }, i) => id === after[i]!.id);
  return {
    order: isSameOrder ? null : after.map(({ id }) => id),
    members: after.filter((member) => {
      const old = was.get(member.id);
      return old !== member && JSON.stringify(old) !== JSON.stringify(member);
    }),
  };
}

/** The document that a delta leads to, from the one that it was made from; throws `delta-of-another` for any other. O(slides). */
export function withDelta(before: ShowDocument, { values, lists }: DocumentDelta): ShowDocument {
  const after: Record<string, unknown> = { ...before, ...values };
  for (const [key, { order, members }] of Object.entries(lists)) {
    if (!isList(key)) continue;
    const list: readonly Member[] = before[key];
    const known = new Map([...list, ...members].map((member) => [member.id, member]));
    after[key] = (order ?? list.map(({ id }) => id)).map((id) => {
      const member = known.get(id);
      if (member) return member;
      throw new HummingTideError(
        "delta-of-another",
        `The delta names "${id}", which the document does not have: it was made from another one.`,
      );
    });
  }
  return after as ShowDocument;
}
