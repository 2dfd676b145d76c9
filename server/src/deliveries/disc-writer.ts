import type { DiscMedium } from "@humming-tide/contract";

export interface DiscBurn {
  readonly id: string;
  readonly state: "writing" | "verifying" | "done" | "failed" | "cancelled";
  /** 0 to 1 of writing, then of verifying. */
  readonly progress: number;
  readonly error: string | null;
}

/**
 * A drive that writes discs from folders of this machine. All calls throw `service-unreachable` and
 * `service-refused`.
 */
export interface DiscWriter {
  drive(): Promise<{ readonly medium: DiscMedium | null; readonly isBusy: boolean }>;
  begin(folder: string, label: string): Promise<DiscBurn>;
  burn(id: string): Promise<DiscBurn>;
  /** The disc is spoilt by it. */
  cancel(id: string): Promise<void>;
}
