import { itemAt, present, valueFor } from "../../presence/index.ts";
import { type ShowDocument, showDocumentSchema } from "./document.ts";
import { type DocumentDelta, deltaBetween, isMemberList, type MemberList } from "./document-delta.ts";

/** Where two edits of one document touch the same thing. */
export type MergePlace =
  /** A setting of the show; `field` may name a part of it: "style.transition". */
  | { readonly kind: "show"; readonly field: string }
  /** A field of a slide, passage, song, voice or output. */
  | { readonly kind: "member"; readonly list: MemberList; readonly id: string; readonly field: string }
  /** Taken out on one side and changed on the other. */
  | { readonly kind: "gone"; readonly list: MemberList; readonly id: string }
  | { readonly kind: "order"; readonly list: MemberList }
  /** Each part fits, but all together they are no valid show. */
  | { readonly kind: "whole" };

export interface MergeConflict {
  /** Tells the places of one merge apart. */
  readonly key: string;
  readonly place: MergePlace;
  /** The values of both sides; undefined for what is taken out. Of orders: the ids. */
  readonly mine: unknown;
  readonly theirs: unknown;
}

export type MergeSide = "mine" | "theirs";

export interface MergedDocument {
  /** With the chosen side where both touch the same thing. */
  readonly document: ShowDocument;
  /** In the order of the document; empty: both sides are in it whole. */
  readonly conflicts: readonly MergeConflict[];
}

/** Settings whose parts are decided one by one; all others are one decision each. */
const DIVISIBLE: ReadonlySet<string> = new Set(["style", "mix", "clientOffer"]);

/** What belongs to a slide's file: one decision where a side has replaced the file. */
const OF_THE_FILE = ["sha256", "fileName", "turn", "subject", "views", "clip", "formerFiles"] as const;

/**
 * Two edits of one document in one: what only one side changed is taken from that side, field by
 * field of each slide, passage, song, voice and output. Where both changed the same thing, `choose`
 * decides, and the place is listed. `base` is what both were made from. With `mine` equal to `base`
 * the result is `theirs`, and the other way round. O(slides) where little differs.
 */
export function mergeDocuments(
  base: ShowDocument,
  mine: ShowDocument,
  theirs: ShowDocument,
  choose: (key: string) => MergeSide = () => "theirs",
): MergedDocument {
  const merge = new Merge(base, mine, theirs, choose);
  const document = merge.document(deltaBetween(base, theirs));
  const checked = showDocumentSchema.safeParse(document);
  if (checked.success) return { document, conflicts: merge.conflicts };
  const side = choose("whole");
  const conflict: MergeConflict = { key: "whole", place: { kind: "whole" }, mine, theirs };
  return { document: side === "mine" ? mine : theirs, conflicts: [conflict] };
}

interface Member {
  readonly id: string;
}
type Fields = Readonly<Record<string, unknown>>;

const isSame = (a: unknown, b: unknown): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);

class Merge {
  readonly conflicts: MergeConflict[] = [];
  readonly #base: Fields;
  readonly #mine: Fields;
  readonly #theirs: Fields;
  readonly #choose: (key: string) => MergeSide;

  constructor(base: ShowDocument, mine: ShowDocument, theirs: ShowDocument, choose: (key: string) => MergeSide) {
    this.#base = base;
    this.#mine = mine;
    this.#theirs = theirs;
    this.#choose = choose;
  }

  document(theirChange: DocumentDelta): ShowDocument {
    const merged: Record<string, unknown> = { ...this.#mine };
    for (const key of Object.keys(this.#theirs)) {
      if (isMemberList(key)) {
        if (theirChange.lists[key]) merged[key] = this.#list(key);
      } else if (key in theirChange.values)
        merged[key] = this.#field(key, this.#base[key], this.#mine[key], this.#theirs[key], (field) => ({
          kind: "show",
          field,
        }));
    }
    return inPassages(merged as unknown as ShowDocument);
  }

  /** One field of the show or of a member. */
  #field(name: string, base: unknown, mine: unknown, theirs: unknown, placeOf: (field: string) => MergePlace): unknown {
    if (isSame(mine, base) || isSame(mine, theirs)) return theirs;
    if (isSame(theirs, base)) return mine;
    const isDivided = DIVISIBLE.has(name) && [base, mine, theirs].every((value) => value && typeof value === "object");
    if (!isDivided) return this.#conflict(placeOf(name), mine, theirs);
    const [from, own, other] = [base as Fields, mine as Fields, theirs as Fields];
    return Object.fromEntries(
      Object.keys(other).map((part) => [
        part,
        this.#field(part, from[part], own[part], other[part], (field) => placeOf(`${name}.${field}`)),
      ]),
    );
  }

  #list(list: MemberList): readonly Member[] {
    const [base, mine, theirs] = [this.#base, this.#mine, this.#theirs].map(
      (document) => new Map((document[list] as readonly Member[]).map((member) => [member.id, member])),
    ) as [Map<string, Member>, Map<string, Member>, Map<string, Member>];
    const members = new Map<string, Member>();
    for (const id of new Set([...mine.keys(), ...theirs.keys()])) {
      const member = this.#member(list, id, base.get(id), mine.get(id), theirs.get(id));
      if (member) members.set(id, member);
    }
    return this.#order(list, [...base.keys()], [...mine.keys()], [...theirs.keys()], members).map((id) =>
      valueFor(members, id),
    );
  }

  #member(
    list: MemberList,
    id: string,
    base: Member | undefined,
    mine: Member | undefined,
    theirs: Member | undefined,
  ): Member | undefined {
    if (mine === theirs || isSame(theirs, base)) return mine;
    if (isSame(mine, base)) return theirs;
    if (!mine || !theirs) return this.#conflict({ kind: "gone", list, id }, mine, theirs);
    const [from, own, other]: Fields[] = [{ ...base }, { ...mine }, { ...theirs }];
    const placeOf = (field: string): MergePlace => ({ kind: "member", list, id, field });
    const isReplaced =
      list === "slides" && [own, other].some((side) => present(side)["sha256"] !== present(from)["sha256"]);
    const together: ReadonlySet<string> = new Set(isReplaced ? OF_THE_FILE : []);
    const fileOf = (side: Fields): Fields => Object.fromEntries([...together].map((name) => [name, side[name]]));
    const fields = Object.keys(present(other))
      .filter((name) => !together.has(name))
      .map((name) => [name, this.#field(name, present(from)[name], present(own)[name], present(other)[name], placeOf)]);
    const file = isReplaced
      ? this.#field("sha256", fileOf(present(from)), fileOf(present(own)), fileOf(present(other)), placeOf)
      : {};
    return { ...theirs, ...Object.fromEntries(fields), ...(file as Fields) } as Member;
  }

  /**
   * Ids in the merged order: that of the side that changed it, with what the other side brought in
   * behind what it stood behind there.
   */
  #order(
    list: MemberList,
    base: readonly string[],
    mine: readonly string[],
    theirs: readonly string[],
    members: ReadonlyMap<string, Member>,
  ): string[] {
    const [inMine, inTheirs] = [new Set(mine), new Set(theirs)];
    const inAll = new Set(base.filter((id) => members.has(id) && inMine.has(id) && inTheirs.has(id)));
    const common = (ids: readonly string[]): string[] => ids.filter((id) => inAll.has(id));
    const [was, own, other] = [common(base), common(mine), common(theirs)];
    const sides: Readonly<Record<MergeSide, readonly string[]>> = { mine, theirs };
    let side: MergeSide = isSame(own, was) ? "theirs" : "mine";
    if (!isSame(own, was) && !isSame(other, was) && !isSame(own, other))
      side = this.#conflict<MergeSide>({ kind: "order", list }, "mine", "theirs", { mine: own, theirs: other });
    const order = sides[side].filter((id) => members.has(id));
    const placed = new Set(order);
    let before: string | null = null;
    for (const id of sides[side === "mine" ? "theirs" : "mine"]) {
      if (!members.has(id)) continue;
      if (!placed.has(id)) order.splice(before === null ? 0 : order.indexOf(before) + 1, 0, id);
      placed.add(id);
      before = id;
    }
    return order;
  }

  #conflict<Value>(
    place: MergePlace,
    mine: Value,
    theirs: Value,
    shown: { readonly mine: unknown; readonly theirs: unknown } = { mine, theirs },
  ): Value {
    const key = JSON.stringify(Object.values(place));
    this.conflicts.push({ key, place, ...shown });
    return this.#choose(key) === "mine" ? mine : theirs;
  }
}

/** Slides lie passage after passage; one whose passage is gone goes to the first. */
function inPassages(show: ShowDocument): ShowDocument {
  const places = new Map(show.passages.map(({ id }, index) => [id, index]));
  const slides = show.slides.map((slide) =>
    places.has(slide.passageId) ? slide : { ...slide, passageId: itemAt(show.passages, 0).id },
  );
  const sorted = slides.toSorted((a, b) => valueFor(places, a.passageId) - valueFor(places, b.passageId));
  return sorted.every((slide, index) => slide === show.slides[index]) ? show : { ...show, slides: sorted };
}
