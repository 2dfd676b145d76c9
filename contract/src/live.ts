import { z } from "zod";
import { checkRunSchema } from "./checks.ts";
import { deliverySchema } from "./deliveries.ts";
import { exportJobSchema } from "./jobs.ts";
import { proxyStateSchema } from "./media.ts";

/**
 * What the server tells every browser on its one stream of events (server-sent events, WHATWG HTML
 * 9.2). Small facts are sent whole. Of large ones only the change is announced: pages that show
 * them ask again.
 */
export const liveEventSchema = z.discriminatedUnion("kind", [
  /** The stream has begun, or begun again: whatever was told before may have been missed. */
  z.object({ kind: z.literal("connected") }),
  /** A show was saved; revision 0: it was put elsewhere on the shelf. */
  z.object({ kind: z.literal("revision"), showId: z.string(), revision: z.number().int() }),
  /** Lengths of films on the shelf were measured. */
  z.object({ kind: z.literal("shelf") }),
  z.object({ kind: z.literal("export"), job: exportJobSchema }),
  /** The playable copy of a clip. */
  z.object({ kind: z.literal("copy"), state: proxyStateSchema }),
  z.object({ kind: z.literal("delivery"), delivery: deliverySchema }),
  z.object({ kind: z.literal("check"), run: checkRunSchema }),
  z.object({ kind: z.literal("client-page"), showId: z.string() }),
  /** The services outside, or what stands in them: an account, a disc. */
  z.object({ kind: z.literal("services") }),
  /**
   * A medium is made ready while somebody waits for it: what was made of it had gone, or is made on
   * first use.
   */
  z.object({
    kind: z.literal("preparing"),
    sha256: z.string(),
    fileName: z.string(),
    isDone: z.boolean(),
    /** From 0 to 1; null where it cannot be said. */
    progress: z.number().nullable(),
    secondsLeft: z.number().nullable(),
  }),
]);
export type LiveEvent = z.infer<typeof liveEventSchema>;
