import type { ShowPlace, ShowSummary } from "@humming-tide/contract";

/** What every card of the shelf gets. */
export interface ShowCardProps {
  show: ShowSummary;
  onPut: (show: ShowSummary, place: ShowPlace) => void;
  onChanged: () => void;
}
