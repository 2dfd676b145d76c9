const instants = new Intl.DateTimeFormat("en", { dateStyle: "medium", timeStyle: "short" });

/** An instant in ISO 8601 as people say it here: "Nov 29, 2026, 2:05 PM". */
export const instantText = (iso: string): string => instants.format(new Date(iso));
