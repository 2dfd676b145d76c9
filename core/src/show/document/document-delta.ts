import { z } from "zod";
import { itemAt } from "../../presence/index.ts";
import { showError } from "../show-errors.ts";
import type { ShowDocument } from "./document.ts";

const memberSchema = z.looseObject({ id: z.string() });
type Member = z.infer<typeof memberSchema>;

/**
 * Lists whose members have ids: their order, where it differs, and the members that are new or
 * differ.
 */
const listDeltaSchema = z.object({
  order: z.string().array().max(6000).nullable(),
  members: memberSchema.array().max(6000),
});
type ListDelta = z.infer<typeof listDeltaSchema>;

/** Lists of a document whose members have ids. */
const MEMBER_LISTS = ["passages", "slides", "songs", "voices", "outputs"] as const;
export type MemberList = (typeof MEMBER_LISTS)[number];
/** Whether a key of the document is a list whose members have ids. */
export const isMemberList = (key: string): key is MemberList => (MEMBER_LISTS as readonly string[]).includes(key);

/**
 * What has to change in one document to have another: plain data, small where the edit was. What it
 * leads to is checked by the document's own schema.
 */
export const documentDeltaSchema = z.object({
  values: z.record(z.string().max(64), z.unknown()),
  lists: z.partialRecord(z.enum(MEMBER_LISTS), listDeltaSchema),
});
export type DocumentDelta = z.infer<typeof documentDeltaSchema>;

/** Whether a delta leads nowhere else. */
export const isEmptyDelta = ({ values, lists }: DocumentDelta): boolean =>
  Object.keys(values).length === 0 && Object.keys(lists).length === 0;

/**
 * The delta that leads from a document to another. Fields that are the same object cost nothing;
 * O(slides).
 */
export function deltaBetween(before: ShowDocument, after: ShowDocument): DocumentDelta {
  const values: Record<string, unknown> = {};
  const lists: Partial<Record<MemberList, ListDelta>> = {};
  for (const key of Object.keys(after) as (keyof ShowDocument)[]) {
    if (before[key] === after[key]) continue;
    if (isMemberList(key)) {
      const delta = listDelta(membersOf(before, key), membersOf(after, key));
      if (delta.order || delta.members.length > 0) lists[key] = delta;
    } else if (JSON.stringify(before[key]) !== JSON.stringify(after[key])) values[key] = after[key];
  }
  return { values, lists };
}

const membersOf = (document: ShowDocument, list: MemberList): readonly Member[] => document[list];

function listDelta(before: readonly Member[], after: readonly Member[]): ListDelta {
  const was = new Map(before.map((member) => [member.id, member]));
  const isSameOrder = before.length === after.length && before.every(({ id }, i) => id === itemAt(after, i).id);
  return {
    order: isSameOrder ? null : after.map(({ id }) => id),
    members: after.filter((member) => {
      const old = was.get(member.id);
      return old !== member && JSON.stringify(old) !== JSON.stringify(member);
    }),
  };
}

/**
 * The document that a delta leads to, from the one that it was made from; throws `delta-of-another`
 * for any other. O(slides).
 */
export function withDelta(before: ShowDocument, { values, lists }: DocumentDelta): ShowDocument {
  const after: Record<string, unknown> = { ...before, ...values };
  for (const [key, { order, members }] of Object.entries(lists)) {
    if (!isMemberList(key)) continue;
    const list = membersOf(before, key);
    const known = new Map([...list, ...members].map((member) => [member.id, member]));
    after[key] = (order ?? list.map(({ id }) => id)).map((id) => {
      const member = known.get(id);
      if (member) return member;
      throw showError("delta-of-another", { id });
    });
  }
  return after as ShowDocument;
}
