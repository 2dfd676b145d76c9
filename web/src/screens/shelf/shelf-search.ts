import type { ShowSummary } from "@humming-tide/contract";

const plain = (text: string): string => text.normalize("NFD").replace(/\p{M}/gu, "").toLowerCase();

/**
 * Whether every word of a search is found in what a show is called; capitals and accents do not
 * matter.
 */
export function matchesSearch(
  show: Pick<ShowSummary, "title" | "event" | "client" | "date" | "songFileName">,
  search: string,
): boolean {
  const text = plain([show.title, show.event, show.client, show.date ?? "", show.songFileName ?? ""].join("\n"));
  return plain(search)
    .split(/\s+/)
    .every((word) => text.includes(word));
}
