import { present } from "../presence/index.ts";
import type { ErrorMeaning } from "./error-meaning.ts";
import { type ErrorValues, HummingTideError } from "./humming-tide-error.ts";

/**
 * What one code stands for: its meaning, and the sentences that tell a person the values of a case.
 */
export interface ErrorEntry<Values> {
  readonly meaning: ErrorMeaning;
  readonly text: (values: Values) => string;
}

/** The codes of one room. A code belongs to one room only. */
export type ErrorCatalogue = Readonly<Record<string, ErrorEntry<never>>>;

type ValuesOf<Entry> = Entry extends ErrorEntry<infer Values> ? Values : never;

/** Values may only be left out where the text needs none. */
type Case<Values> = unknown extends Values
  ? [values?: Readonly<Record<string, never>>, options?: ErrorOptions]
  : [values: Values, options?: ErrorOptions];

export type ErrorMaker<Catalogue extends ErrorCatalogue> = <Code extends keyof Catalogue & string>(
  code: Code,
  ...rest: Case<ValuesOf<Catalogue[Code]>>
) => HummingTideError;

/**
 * The errors of a room, made by code and values. The text follows from both:
 *
 *     const frameError = errorsOf({
 *       "size-odd": { meaning: BAD, text: ({ width }: { width: number }) => `... ${width} ...` },
 *     });
 *     throw frameError("size-odd", { width: 641 });
 */
export const errorsOf =
  <Catalogue extends ErrorCatalogue>(catalogue: Catalogue): ErrorMaker<Catalogue> =>
  (code, ...[values, options]) => {
    const { meaning, text } = present(catalogue[code]);
    const told: unknown = values ?? {};
    return new HummingTideError({ code, values: told as ErrorValues, message: text(told as never), meaning }, options);
  };
