/** Names of sections in their order: "A", or, where a label comes again, "B 1", "B 2". */
export function sectionNames(sections: readonly { readonly label: string }[]): string[] {
  const times = new Map<string, number>();
  for (const { label } of sections) times.set(label, (times.get(label) ?? 0) + 1);
  const seen = new Map<string, number>();
  return sections.map(({ label }) => {
    const number = (seen.get(label) ?? 0) + 1;
    seen.set(label, number);
    return times.get(label) === 1 ? label : `${label} ${number}`;
  });
}
