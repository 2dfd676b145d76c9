import { z } from "zod";
import { jobStatusSchema } from "./jobs.ts";

/** What publishes and burns films: services outside of the house, each behind one interface. */

export const VISIBILITIES = ["public", "unlisted", "private"] as const;
export type Visibility = (typeof VISIBILITIES)[number];

const videoWishSchema = z.object({
  kind: z.literal("video"),
  exportId: z.string().max(64),
  title: z.string().trim().min(1).max(100),
  description: z.string().max(5000),
  visibility: z.enum(VISIBILITIES),
});
export type VideoWish = z.infer<typeof videoWishSchema>;

const discWishSchema = z.object({
  kind: z.literal("disc"),
  exportId: z.string().max(64),
  /** Of the volume. */
  label: z.string().trim().min(1).max(32),
  /** What is seen first when the disc is opened. */
  firstPlay: z.enum(["menu", "film"]),
  /** Only the folder is made, to be written elsewhere. */
  onlyFolder: z.boolean(),
});
export type DiscWish = z.infer<typeof discWishSchema>;

export const deliveryWishSchema = z.discriminatedUnion("kind", [videoWishSchema, discWishSchema]);
export type DeliveryWish = z.infer<typeof deliveryWishSchema>;

export const deliverySchema = jobStatusSchema.extend({
  id: z.string(),
  showId: z.string(),
  wish: deliveryWishSchema,
  fileName: z.string(),
  /** Something to know that is no failure. */
  remark: z.string().nullable(),
  /** Where the film is published, or the folder of the disc. */
  place: z.string().nullable(),
  createdAt: z.string(),
});
export type Delivery = z.infer<typeof deliverySchema>;

export const discMediumSchema = z.object({
  kind: z.enum(["single", "double"]),
  state: z.enum(["blank", "written", "spoilt"]),
  label: z.string().nullable(),
  bytes: z.number(),
});
export type DiscMedium = z.infer<typeof discMediumSchema>;

export const servicesSchema = z.object({
  /** Null: none is set up. */
  address: z.string().nullable(),
  /** Null: nobody is signed in. */
  videoAccount: z.string().nullable(),
  /** Null: the drive cannot be asked. */
  drive: z.object({ medium: discMediumSchema.nullable(), isBusy: z.boolean() }).nullable(),
});
export type Services = z.infer<typeof servicesSchema>;

export const signInSchema = z.object({ name: z.string().min(1).max(100), password: z.string().min(1).max(200) });
