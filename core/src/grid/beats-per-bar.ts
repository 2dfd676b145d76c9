/** The count of most bars, the longer of equally usual ones; null where there is no whole bar. */
export function commonestBeatsPerBar(beats: readonly { readonly position: number }[]): number | null {
  const counts = new Map<number, number>();
  for (const [i, beat] of beats.entries()) {
    const next = beats[i + 1];
    if (next?.position === 1 && beat.position > 0) counts.set(beat.position, (counts.get(beat.position) ?? 0) + 1);
  }
  return [...counts].sort((a, b) => b[1] - a[1] || b[0] - a[0])[0]?.[0] ?? null;
}
