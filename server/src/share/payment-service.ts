import type { PaymentState } from "@humming-tide/contract";
import type { Price } from "@humming-tide/core/show";

export interface PaymentWish extends Price {
  /** The same key is the same payment there, however often it is begun. */
  readonly key: string;
  /** What is paid for, in words. */
  readonly what: string;
  /** Where the payer is sent back to, whatever came of it. */
  readonly returnUrl: string;
}

export interface ServicePayment extends Price {
  readonly state: Exclude<PaymentState, "differs">;
}

/**
 * Whoever takes money for the studio. What the payer's browser says afterwards is never believed:
 * the state is asked for here.
 */
export interface PaymentService {
  /** Throws `service-unreachable`, `service-refused`. */
  begin(wish: PaymentWish): Promise<{ readonly id: string; readonly checkoutUrl: string }>;
  /** What came of a payment, and what sum it is about there. Throws as `begin`. */
  state(id: string): Promise<ServicePayment>;
}
