import type { FilmPlan } from "@humming-tide/core/film";
import type { ReactNode } from "react";
import { DuckingPanel } from "./DuckingPanel.tsx";
import { LoudnessPanel } from "./LoudnessPanel.tsx";
import { SourcesPanel } from "./SourcesPanel.tsx";
import { VoicesPanel } from "./VoicesPanel.tsx";

/**
 * What is heard: voices, all sources with their levels, how music makes room, and how loud the
 * whole is.
 */
export function SoundSide({ plan }: { plan: FilmPlan }): ReactNode {
  return (
    <>
      <VoicesPanel plan={plan} />
      <SourcesPanel plan={plan} />
      <DuckingPanel plan={plan} />
      <LoudnessPanel plan={plan} />
    </>
  );
}
