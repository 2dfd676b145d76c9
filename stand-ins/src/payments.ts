import { randomUUID } from "node:crypto";
import path from "node:path";
import express, { Router } from "express";
import { z } from "zod";
import { Kept } from "./kept.ts";
import { buttonForm, escaped, pageText } from "./pages.ts";
import { Refusal } from "./refusal.ts";
import type { Troubles } from "./troubles.ts";

const wishSchema = z.object({
  /** Of whoever asks: the same key is the same payment. */
  key: z.string().min(8).max(100),
  minorUnits: z.number().int().min(1).max(100_000_000),
  currency: z.string().regex(/^[A-Z]{3}$/),
  what: z.string().max(200),
  returnUrl: z.url({ protocol: /^https?$/ }),
});
interface Payment extends z.infer<typeof wishSchema> {
  readonly id: string;
  readonly state: "begun" | "paid" | "refused" | "abandoned";
  readonly begunAt: number;
}

/** A payer who does not come back has gone. */
const ABANDONED_AFTER_MS = 30 * 60_000;
const OUTCOMES = { pay: "paid", refuse: "refused", leave: "abandoned" } as const;

/**
 * A made-up payment service: a payment is begun by the shop, finished on the service's own page,
 * and asked for by the shop.
 */
export function paymentRoutes(folder: string, base: () => string, troubles: Troubles, now: () => number): Router {
  const payments = new Kept<Payment>(path.join(folder, "payments.json"));
  const router = Router();

  const known = (id: string): Payment => {
    const payment = payments.get(id);
    if (!payment) throw new Refusal(404, "There is no such payment.");
    if (payment.state !== "begun" || now() - payment.begunAt < ABANDONED_AFTER_MS) return payment;
    const gone = { ...payment, state: "abandoned" } as const;
    payments.put(id, gone);
    return gone;
  };

  router.post("/payments", express.json({ limit: "16kb" }), (request, response) => {
    if (troubles.happens("payment-away")) {
      request.socket.destroy();
      return;
    }
    const wish = wishSchema.parse(request.body);
    let payment = payments.find(({ key }) => key === wish.key);
    if (payment && (payment.minorUnits !== wish.minorUnits || payment.currency !== wish.currency))
      throw new Refusal(409, "This key belongs to a payment of another sum.");
    if (!payment) {
      payment = { ...wish, id: randomUUID(), state: "begun", begunAt: now() };
      payments.put(payment.id, payment);
    }
    response.status(201).json({ id: payment.id, checkoutUrl: `${base()}/checkout/${payment.id}` });
  });

  router.get("/payments/:id", (request, response) => {
    const { id, state, minorUnits, currency } = known(request.params.id);
    response.json({ id, state, minorUnits, currency });
  });

  router.get("/checkout/:id", (request, response) => {
    const { id, state, what, minorUnits, currency, returnUrl } = known(request.params.id);
    const here = `/checkout/${id}`;
    const choices =
      state === "begun"
        ? [
            buttonForm(here, "outcome", "pay", "Pay", true),
            buttonForm(here, "outcome", "refuse", "Pay with a card that is refused"),
            buttonForm(here, "outcome", "leave", "Leave without paying"),
          ].join("\n")
        : `<p>This payment is ${state}. <a href="${escaped(returnUrl)}">Back to the film</a></p>`;
    response.send(
      pageText(
        "Pay",
        `<h1>${escaped(what)}</h1>\n<p class="sum">${escaped(sumText(minorUnits, currency))}</p>\n${choices}`,
      ),
    );
  });

  router.post("/checkout/:id", express.urlencoded({ extended: false, limit: "4kb" }), (request, response) => {
    const { outcome } = z.object({ outcome: z.enum(["pay", "refuse", "leave"]) }).parse(request.body);
    const payment = known(request.params.id);
    // What has come to its end stays as it is, however often the button is pressed.
    if (payment.state === "begun") payments.put(payment.id, { ...payment, state: OUTCOMES[outcome] });
    response.redirect(303, payment.returnUrl);
  });

  return router;
}

function sumText(minorUnits: number, currency: string): string {
  const format = new Intl.NumberFormat("en", { style: "currency", currency, currencyDisplay: "code" });
  return format.format(minorUnits / 10 ** (format.resolvedOptions().maximumFractionDigits ?? 2));
}
