import { type ClientPayment, type PaymentState, priceText } from "@humming-tide/contract";
import type { ReactNode } from "react";
import { instantText } from "../../../ui/date-text.ts";
import { Panel } from "../../../ui/Panel.tsx";

const STATES: Readonly<Record<PaymentState, string>> = {
  begun: "begun",
  paid: "paid",
  differs: "another sum was paid: look at the payment service",
  refused: "refused",
  abandoned: "not finished",
};

/** What was paid, and what came to nothing. */
export function PaymentsPanel({ payments }: { payments: readonly ClientPayment[] }): ReactNode {
  if (payments.length === 0) return null;
  return (
    <Panel title="Payments">
      <ul className="flex flex-col gap-1 text-[13px]">
        {payments.map(({ id, state, minorUnits, currency, createdAt }) => (
          <li key={id} className="flex justify-between gap-3" data-testid="payment" data-state={state}>
            <span className="text-quiet">{instantText(createdAt)}</span>
            <span>
              {priceText({ minorUnits, currency })}, {STATES[state]}
            </span>
          </li>
        ))}
      </ul>
    </Panel>
  );
}
