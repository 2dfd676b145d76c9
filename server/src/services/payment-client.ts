import { z } from "zod";
import type { PaymentService, PaymentWish, ServicePayment } from "../share/payment-service.ts";
import { ServiceClient } from "./service-client.ts";

const begunSchema = z.object({ id: z.string().regex(/^[\w-]{1,80}$/), checkoutUrl: z.url({ protocol: /^https?$/ }) });
const stateSchema = z.object({
  state: z.enum(["begun", "paid", "refused", "abandoned"]),
  minorUnits: z.number().int(),
  currency: z.string(),
});

/**
 * Payments by a service that speaks JSON over HTTP (docs/stand-ins.md); the one that ships with the
 * app is made up.
 */
export class PaymentClient implements PaymentService {
  readonly #service: ServiceClient;

  constructor(base: string) {
    this.#service = new ServiceClient(base, "The payment service");
  }

  async begin({
    key,
    minorUnits,
    currency,
    what,
    returnUrl,
  }: PaymentWish): Promise<{ id: string; checkoutUrl: string }> {
    const wish = { key, minorUnits, currency, what, returnUrl };
    return this.#service.ask(begunSchema, "POST", "/payments", wish);
  }

  async state(id: string): Promise<ServicePayment> {
    return this.#service.ask(stateSchema, "GET", `/payments/${id}`);
  }
}
