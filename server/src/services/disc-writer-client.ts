import { discMediumSchema } from "@humming-tide/contract";
import { z } from "zod";
import type { DiscBurn, DiscWriter } from "../deliveries/disc-writer.ts";
import { ServiceClient } from "./service-client.ts";

const driveSchema = z.object({ medium: discMediumSchema.nullable(), isBusy: z.boolean() });
const burnSchema = z.object({
  id: z.string().regex(/^[\w-]{1,80}$/),
  state: z.enum(["writing", "verifying", "done", "failed", "cancelled"]),
  progress: z.number().min(0).max(1),
  error: z.string().nullable(),
});

/** A drive behind a service of this machine (docs/stand-ins.md). */
export class DiscWriterClient implements DiscWriter {
  readonly #service: ServiceClient;

  constructor(base: string) {
    this.#service = new ServiceClient(base, "The disc drive");
  }

  async drive(): ReturnType<DiscWriter["drive"]> {
    return this.#service.ask(driveSchema, "GET", "/disc/drive");
  }

  async begin(folder: string, label: string): Promise<DiscBurn> {
    return this.#service.ask(burnSchema, "POST", "/disc/burns", { folder, label });
  }

  async burn(id: string): Promise<DiscBurn> {
    return this.#service.ask(burnSchema, "GET", `/disc/burns/${id}`);
  }

  async cancel(id: string): Promise<void> {
    await this.#service.ask(burnSchema, "DELETE", `/disc/burns/${id}`);
  }
}
