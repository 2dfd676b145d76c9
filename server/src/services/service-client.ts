import { z } from "zod";
import { serviceError } from "./service-errors.ts";

const TIMEOUT_MS = 15_000;
const refusalSchema = z.object({ message: z.string() });

/** Speaks to a service elsewhere in JSON. `name` is what people call it. */
export class ServiceClient {
  readonly #base: string;
  readonly #name: string;

  constructor(base: string, name: string) {
    this.#base = base.replace(/\/+$/, "");
    this.#name = name;
  }

  /**
   * Throws `service-unreachable` where it does not answer in time, and `service-refused` with its
   * own words where it says no.
   */
  async ask<T>(schema: z.ZodType<T>, method: "GET" | "POST" | "DELETE", place: string, body?: unknown): Promise<T> {
    const response = await this.send(method, place, {
      ...(body === undefined ? {} : { headers: { "Content-Type": "application/json" }, body: JSON.stringify(body) }),
    });
    return schema.parse(await response.json());
  }

  async send(method: string, place: string, options: RequestInit = {}): Promise<Response> {
    let response: Response;
    try {
      const signal = options.signal ?? AbortSignal.timeout(TIMEOUT_MS);
      response = await fetch(`${this.#base}${place}`, { redirect: "error", ...options, method, signal });
    } catch (cause) {
      if (options.signal?.aborted) throw options.signal.reason as Error;
      throw serviceError("service-unreachable", { service: this.#name, address: this.#base }, { cause });
    }
    if (response.ok) return response;
    const refusal = refusalSchema.safeParse(await response.json().catch(() => null));
    throw serviceError("service-refused", {
      service: this.#name,
      status: response.status,
      why: refusal.success ? refusal.data.message : `status ${response.status}`,
    });
  }
}
