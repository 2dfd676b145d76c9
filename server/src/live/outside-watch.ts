import type { OutsideAccounts } from "../deliveries/outside-accounts.ts";
import type { Payments } from "../share/payments.ts";
import type { LiveWire } from "./live-wire.ts";

const LOOK_EVERY_MS = 3000;

/**
 * Watches what changes outside without telling: the account and the drive of the services,
 * and open payments. Only while a browser listens, and once for all of them.
 */
export class OutsideWatch {
  readonly #timer: ReturnType<typeof setInterval>;
  #known = "";
  #isLooking = false;

  constructor(wire: LiveWire, accounts: OutsideAccounts, payments: Payments) {
    this.#timer = setInterval(() => {
      if (this.#isLooking || !wire.isHeard) return;
      this.#isLooking = true;
      void this.#look(wire, accounts, payments).finally(() => {
        this.#isLooking = false;
      });
    }, LOOK_EVERY_MS);
  }

  close(): void {
    clearInterval(this.#timer);
  }

  async #look(wire: LiveWire, accounts: OutsideAccounts, payments: Payments): Promise<void> {
    try {
      const now = JSON.stringify(await accounts.state());
      if (this.#known !== "" && now !== this.#known) wire.tell({ kind: "services" });
      this.#known = now;
      // Each that has ended is told by itself.
      await payments.lookAgain();
    } catch (error) {
      console.error("The services outside could not be looked at:", error);
    }
  }
}
