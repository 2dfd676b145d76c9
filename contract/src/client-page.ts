import { itemAt, present } from "@humming-tide/core/presence";
import { clientOfferSchema, type Price } from "@humming-tide/core/show";
import { asSeconds } from "@humming-tide/core/time";
import { z } from "zod";
import type { jobStateSchema } from "./jobs.ts";
import { studioIdentitySchema } from "./studio.ts";

/**
 * The studio's side of a client page, and the client's. Nothing of the first ever goes to the
 * second.
 */

/** Digits only: it is read out over the telephone. */
export const pinSchema = z.string().regex(/^\d{4,12}$/, "A PIN has 4 to 12 digits");

/** "https://films.example": a page there may show the client page in a frame. */
export const originSchema = z
  .string()
  .max(200)
  .regex(/^https?:\/\/[a-z0-9.-]+(:\d{1,5})?$/i, "An address like https://example.org, without a path");

export const changeClientPageSchema = z.object({
  /** Left out: as it is; null: none is wanted. */
  pin: pinSchema.nullable().optional(),
  shown: z.boolean(),
  /** An instant in ISO 8601; null: it stays open. */
  expiresAt: z.iso.datetime().nullable(),
  /** Whose pages may show it in a frame; none: nobody's. */
  embedOrigins: z.array(originSchema).max(20),
});
export type ChangeClientPage = z.infer<typeof changeClientPageSchema>;

export const publishVersionSchema = z.object({
  /** What is new in it, for the client. */
  note: z.string().trim().max(500),
});

const commentText = z.string().trim().min(1).max(2000);

/** By the studio: an answer, or done and not done. */
export const answerCommentSchema = z.object({ text: commentText });
export const markCommentSchema = z.object({
  done: z.boolean(),
  /** The revision of the show that answers it. */
  revision: z.number().int().min(1),
});

export type MarkComment = z.infer<typeof markCommentSchema>;

const commentSchema = z.object({
  id: z.string(),
  /** Of the comment that it answers; null for one that begins a thread. */
  threadId: z.string().nullable(),
  from: z.enum(["client", "studio"]),
  name: z.string(),
  text: z.string(),
  /** Of the film that it was made on. */
  version: z.number().int(),
  seconds: asSeconds(z.number()),
  done: z.boolean(),
  createdAt: z.string(),
});
export type ClientComment = z.infer<typeof commentSchema>;

/** With the slide that was seen at that time, so that it stays with it wherever the slide goes. */
const studioCommentSchema = commentSchema.extend({
  slideId: z.string(),
  round: z.number().int(),
  /** The revision of the show that answered it; null while it is open, or where nobody knows. */
  doneRevision: z.number().int().nullable(),
});
export type StudioComment = z.infer<typeof studioCommentSchema>;

const clientVersionSchema = z.object({
  number: z.number().int(),
  note: z.string(),
  createdAt: z.string(),
});

const studioVersionSchema = clientVersionSchema.extend({
  /** "live": the client can see it. */
  state: z.enum(["preparing", "failed", "live"]),
  /** 0 to 1. */
  progress: z.number(),
  /** Why it failed; null unless it did. */
  error: z.string().nullable(),
  /** The show as it was then is the show as it is now. */
  isNewest: z.boolean(),
});
export type StudioVersion = z.infer<typeof studioVersionSchema>;

/** "differs": another sum was paid than was agreed; it does not count as paid. */
export const PAYMENT_STATES = ["begun", "paid", "differs", "refused", "abandoned"] as const;
const paymentStateSchema = z.enum(PAYMENT_STATES);
export type PaymentState = z.infer<typeof paymentStateSchema>;

const paymentSchema = z.object({
  id: z.string(),
  state: paymentStateSchema,
  minorUnits: z.number().int(),
  currency: z.string(),
  createdAt: z.string(),
});
export type ClientPayment = z.infer<typeof paymentSchema>;

export const studioClientPageSchema = z.object({
  /** Null: the show has no page yet. */
  page: z
    .object({
      address: z.string(),
      hasPin: z.boolean(),
      shown: z.boolean(),
      expiresAt: z.string().nullable(),
      embedOrigins: z.array(z.string()),
      embedCode: z.string(),
      /** Wrong PINs of all visitors in a row. */
      wrongTries: z.number().int(),
      /** Until then no PIN of a visitor who was never let in is tried; null: it is. */
      lockedUntil: z.string().nullable(),
      /** Visitors who wait by themselves after wrong PINs. */
      waitingVisitors: z.number().int(),
    })
    .nullable(),
  versions: z.array(studioVersionSchema),
  comments: z.array(studioCommentSchema),
  payments: z.array(paymentSchema),
  /** A way to be paid is set up. */
  canBePaid: z.boolean(),
});
export type StudioClientPage = z.infer<typeof studioClientPageSchema>;

/** What a client sends. */
export const enterSchema = z.object({ pin: z.string().max(40).nullable() });
/** Letters that look like those of "studio" in other scripts. */
const LOOK_ALIKES: Readonly<Record<string, string>> = {
  ...{ ѕ: "s", т: "t", τ: "t", υ: "u", ц: "u", ԁ: "d", і: "i", ι: "i", ı: "i", l: "i", "1": "i", "|": "i", "!": "i" },
  ...{ о: "o", ο: "o", "0": "o", "5": "s", $: "s" },
};

/**
 * Whether a name could be taken for the studio's own, whatever its capitals, spaces, accents and
 * scripts.
 */
export function isStudiosName(name: string): boolean {
  const plain = [...name.normalize("NFKD").toLowerCase()]
    .map((letter) => (Object.hasOwn(LOOK_ALIKES, letter) ? present(LOOK_ALIKES[letter]) : letter))
    .join("")
    .replace(/[^\p{L}]/gu, "");
  return plain.includes("studio");
}

export const commentWishSchema = z.object({
  threadId: z.string().max(64).nullable(),
  name: z
    .string()
    .trim()
    .min(1)
    .max(60)
    .refine((name) => !isStudiosName(name), "“Studio” is the name of those who made the film; write your own"),
  text: commentText,
  version: z.number().int().min(1).max(10_000),
  seconds: asSeconds(z.number().min(0).max(86_400)),
});
export type CommentWish = z.infer<typeof commentWishSchema>;
/** The same key is one payment, however often it is sent. */
export const paymentWishSchema = z.object({ key: z.uuid() });
export const begunPaymentSchema = z.object({ id: z.string(), checkoutUrl: z.string() });

/** What a client gets. */
export const enteredSchema = z.object({ session: z.string() });
export const clientFilmSchema = z.object({
  studio: studioIdentitySchema,
  /** To whoever opens the page; empty: none. */
  greeting: z.string(),
  /** A picture stands for the film until it plays. */
  hasCover: z.boolean(),
  title: z.string(),
  event: z.string(),
  date: z.string().nullable(),
  versions: z.array(clientVersionSchema),
  /** Of the newest version. */
  film: z.object({
    version: z.number().int(),
    seconds: asSeconds(z.number()),
    width: z.number().int(),
    height: z.number().int(),
    mime: z.string(),
    chapters: z.array(
      z.object({ title: z.string(), startSeconds: asSeconds(z.number()), endSeconds: asSeconds(z.number()) }),
    ),
    /** Where slides begin. */
    slideSeconds: z.array(z.number()),
  }),
  /** Null: there are none. */
  download: z
    .object({
      price: clientOfferSchema.shape.price,
      isPaid: z.boolean(),
      /** What came of the newest payment; null: there was none. */
      payment: paymentStateSchema.nullable(),
      bytes: z.number(),
    })
    .nullable(),
  takesComments: z.boolean(),
  comments: z.array(commentSchema),
});
export type ClientFilm = z.infer<typeof clientFilmSchema>;

/** "120.00 EUR", "12,000 JPY": as many decimals as the currency has by ISO 4217. */
export function priceText({ minorUnits, currency }: Price, locale = "en"): string {
  const format = new Intl.NumberFormat(locale, { style: "currency", currency, currencyDisplay: "code" });
  const digits = format.resolvedOptions().maximumFractionDigits ?? 2;
  return format.format(minorUnits / 10 ** digits);
}

/**
 * "120" or "120.5" in a currency's smallest unit; null for a text that is no amount in it, or an
 * unknown currency.
 */
export function minorUnitsOf(amount: string, currency: string): number | null {
  const match = /^\s*(\d{1,7})(?:[.,](\d+))?\s*$/.exec(amount);
  if (!match || !Intl.supportedValuesOf("currency").includes(currency)) return null;
  const digits =
    new Intl.NumberFormat("en", { style: "currency", currency }).resolvedOptions().maximumFractionDigits ?? 2;
  const fraction = match[2] ?? "";
  // By its digits and not as a fraction: 0.29 is 29 and nothing near it.
  return fraction.length > digits ? null : Number(itemAt(match, 1) + fraction.padEnd(digits, "0"));
}

/** What a state of an export means for the version that waits for it. */
export const VERSION_STATES: Readonly<Record<z.infer<typeof jobStateSchema>, StudioVersion["state"]>> = {
  queued: "preparing",
  running: "preparing",
  paused: "preparing",
  cancelled: "failed",
  failed: "failed",
  done: "live",
};
