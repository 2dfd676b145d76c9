import { z } from "zod";

const share = z.number().min(0).max(1);
export const pointSchema = z.object({ x: share, y: share });
/** A place in a picture: shares of its width and height, from its upper left corner. */
export type Point = z.infer<typeof pointSchema>;

export const viewSchema = z.object({
  /** The place of the picture that lies in the middle of the frame. */
  centre: pointSchema,
  /** 1: the smallest picture that covers the frame; below that its fill is seen. */
  zoom: z.number().min(0.05).max(8),
});
/** What part of a picture a frame shows. */
export type View = z.infer<typeof viewSchema>;
