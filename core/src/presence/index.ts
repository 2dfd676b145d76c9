/** What must be there, asked for with an error in words where it is not. Knows no other room. */
export { itemAt, lastOf, present, valueFor } from "./presence.ts";
