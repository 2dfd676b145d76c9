import type { ClientPayment, PaymentState } from "@humming-tide/contract";
import { HummingTideError } from "@humming-tide/core";
import type { Price } from "@humming-tide/core/show";
import { clientPageStore, type StoredPayment } from "../store/client-page-store.ts";
import type { PaymentService } from "./payment-service.ts";

/** A payment that nobody has finished for so long is asked about no more. */
const ASKED_FOR_MS = 24 * 3_600_000;

/** What clients pay for downloads. One payment opens all versions of a film, those to come too. */
export class Payments {
  readonly #service: PaymentService | null;

  constructor(service: PaymentService | null) {
    this.#service = service;
  }

  get canBePaid(): boolean {
    return this.#service !== null;
  }

  /** Throws `already-paid`, `payment-unavailable` and what the service throws. The same key again is the same payment. */
  async begin(
    showId: string,
    wish: { readonly key: string; readonly price: Price; readonly what: string; readonly returnUrl: string },
  ): Promise<{ readonly id: string; readonly checkoutUrl: string }> {
    const { key, price, what, returnUrl } = wish;
    if (!this.#service)
      throw new HummingTideError("payment-unavailable", "Nothing can be paid here at the moment. Please try later.");
    if (await this.isPaid(showId))
      throw new HummingTideError("already-paid", "This film is paid for already. Load the page again.");
    const payment = await clientPageStore.beginPayment(showId, key, price);
    if (payment.state !== "begun")
      throw new HummingTideError("payment-ended", "This payment has come to its end. Begin another one.");
    if (payment.checkoutUrl !== null) return { id: payment.id, checkoutUrl: payment.checkoutUrl };
    const { minorUnits, currency } = payment;
    // Our own name for it is the service's key: a request that is lost on the way can be sent again.
    const begun = await this.#service.begin({ key: payment.id, minorUnits, currency, what, returnUrl });
    await clientPageStore.changePayment(payment.id, { serviceId: begun.id, checkoutUrl: begun.checkoutUrl });
    return { id: payment.id, checkoutUrl: begun.checkoutUrl };
  }

  /** Each as its service knows it; one that cannot be asked stays as it was. The newest first. */
  async list(showId: string): Promise<ClientPayment[]> {
    const payments = await clientPageStore.payments(showId);
    return Promise.all(
      payments.map(async (payment) => {
        const { id, minorUnits, currency, createdAt } = payment;
        return { id, minorUnits, currency, createdAt, state: await this.#newestState(payment) };
      }),
    );
  }

  async isPaid(showId: string): Promise<boolean> {
    return (await this.list(showId)).some(({ state }) => state === "paid");
  }

  async #newestState({ id, state, serviceId, createdAt }: StoredPayment): Promise<PaymentState> {
    if (state !== "begun" || !serviceId || !this.#service) return state;
    if (Date.now() - Date.parse(createdAt) > ASKED_FOR_MS) return state;
    const newest = await this.#service.state(serviceId).catch(() => state);
    if (newest !== state) await clientPageStore.changePayment(id, { state: newest });
    return newest;
  }
}
