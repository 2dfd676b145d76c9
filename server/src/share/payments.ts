import type { ClientPayment, PaymentState } from "@humming-tide/contract";
import type { Price } from "@humming-tide/core/show";
import { Doors } from "../doors.ts";
import type { ClientPageStore, StoredPayment } from "../store/client-page-store.ts";
import { clientPageError } from "./client-page-errors.ts";
import type { PaymentService } from "./payment-service.ts";

/** A payment that nobody has finished for so long is asked about no more. */
const ASKED_FOR_MS = 24 * 3_600_000;
/**
 * Of one page at a time: the couple, and a parent or two. Whoever comes then goes on with the
 * newest.
 */
const MOST_OPEN = 3;

/** What clients pay for downloads. One payment opens all versions of a film, those to come too. */
export class Payments {
  readonly #pages: ClientPageStore;
  readonly #service: PaymentService | null;
  readonly #onChange: (showId: string) => void;
  /** Two that begin at once would both be the last that may be open. */
  readonly #doors = new Doors();

  /** `onChange` hears when a payment begins or ends. */
  constructor(pages: ClientPageStore, service: PaymentService | null, onChange: (showId: string) => void) {
    this.#pages = pages;
    this.#service = service;
    this.#onChange = onChange;
  }

  get canBePaid(): boolean {
    return this.#service !== null;
  }

  /**
   * Throws `already-paid`, `payment-unavailable` and what the service throws. The same key again is
   * the same payment.
   */
  begin(showId: string, wish: BeginPayment): Promise<{ readonly id: string; readonly checkoutUrl: string }> {
    return this.#doors.through(showId, () => this.#begin(showId, wish));
  }

  async #begin(showId: string, wish: BeginPayment): Promise<{ readonly id: string; readonly checkoutUrl: string }> {
    const { key, price, what, returnUrl } = wish;
    if (!this.#service) throw clientPageError("payment-unavailable");
    if (await this.isPaid(showId)) throw clientPageError("already-paid");
    const open = await this.#open(showId, price);
    const [newest] = open;
    if (open.length >= MOST_OPEN && newest?.checkoutUrl && !open.some(({ requestKey }) => requestKey === key))
      return { id: newest.id, checkoutUrl: newest.checkoutUrl };
    const payment = await this.#pages.beginPayment(showId, key, price);
    if (payment.state !== "begun") throw clientPageError("payment-ended");
    if (payment.checkoutUrl !== null) return { id: payment.id, checkoutUrl: payment.checkoutUrl };
    const { minorUnits, currency } = payment;
    // Our own name for it is the service's key: a request that is lost on the way can be sent
    // again.
    const begun = await this.#service.begin({ key: payment.id, minorUnits, currency, what, returnUrl });
    await this.#pages.changePayment(payment.id, { serviceId: begun.id, checkoutUrl: begun.checkoutUrl });
    this.#onChange(showId);
    return { id: payment.id, checkoutUrl: begun.checkoutUrl };
  }

  /**
   * Those of a price that may still be finished, the newest first. Those of an earlier price hold
   * nobody up.
   */
  async #open(showId: string, { minorUnits, currency }: Price): Promise<StoredPayment[]> {
    await this.list(showId);
    return (await this.#pages.payments(showId)).filter(
      (payment) =>
        payment.state === "begun" &&
        isRecent(payment) &&
        payment.minorUnits === minorUnits &&
        payment.currency === currency,
    );
  }

  /** Asks about everything that is open, for those who wait for it. */
  async lookAgain(): Promise<void> {
    if (!this.#service) return;
    for (const showId of await this.#pages.showsWithOpenPayments(new Date(Date.now() - ASKED_FOR_MS)))
      await this.list(showId);
  }

  /** Each as its service knows it; one that cannot be asked stays as it was. The newest first. */
  async list(showId: string): Promise<ClientPayment[]> {
    const payments = await this.#pages.payments(showId);
    return Promise.all(
      payments.map(async (payment) => {
        const { id, minorUnits, currency, createdAt } = payment;
        return { id, minorUnits, currency, createdAt, state: await this.#newestState(showId, payment) };
      }),
    );
  }

  async isPaid(showId: string): Promise<boolean> {
    return (await this.list(showId)).some(({ state }) => state === "paid");
  }

  async #newestState(showId: string, payment: StoredPayment): Promise<PaymentState> {
    const { id, state, serviceId } = payment;
    if (state !== "begun" || !serviceId || !this.#service || !isRecent(payment)) return state;
    const there = await this.#service.state(serviceId).catch(() => null);
    if (there === null || there.state === state) return state;
    // The price of the show may be another by now: what counts is what was agreed when this payment
    // began.
    const isAgreed = there.minorUnits === payment.minorUnits && there.currency === payment.currency;
    const newest = there.state === "paid" && !isAgreed ? "differs" : there.state;
    await this.#pages.changePayment(id, { state: newest });
    this.#onChange(showId);
    return newest;
  }
}

interface BeginPayment {
  readonly key: string;
  readonly price: Price;
  readonly what: string;
  readonly returnUrl: string;
}

const isRecent = ({ createdAt }: StoredPayment): boolean => Date.now() - Date.parse(createdAt) <= ASKED_FOR_MS;
