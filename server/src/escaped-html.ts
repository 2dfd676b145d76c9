import { present } from "@humming-tide/core/presence";

const ENTITIES: Readonly<Record<string, string>> = { "&": "&amp;", "<": "&lt;", ">": "&gt;", '"': "&quot;" };

/** A text as it stands in a page's markup, between tags or in an attribute with double quotes. */
export const escapedHtml = (text: string): string => text.replace(/[&<>"]/g, (sign) => present(ENTITIES[sign]));
