import { type Draft, original } from "@reduxjs/toolkit";

/**
 * The state itself instead of Immer's draft of it. Documents are compared by identity here (is what was saved still the newest?), and a
 * draft is never identical to what it stands for; large lists are not worth drafting either.
 */
export const plain = <State>(draft: Draft<State>): State => original(draft);
