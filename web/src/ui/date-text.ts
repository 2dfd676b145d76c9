const instants = new Intl.DateTimeFormat("en", { dateStyle: "medium", timeStyle: "short" });

/** An instant in ISO 8601 as people say it here: "Nov 29, 2026, 2:05 PM". */
export const instantText = (iso: string): string => instants.format(new Date(iso));

const days = new Intl.DateTimeFormat("en", { dateStyle: "medium" });

/** The day of an instant in ISO 8601: "Nov 29, 2026". Making a formatter for each would be slow. */
export const dayText = (iso: string): string => days.format(new Date(iso));

const longDays = new Intl.DateTimeFormat("en", { dateStyle: "full" });

/** The day of an instant in ISO 8601, written out: "Sunday, November 29, 2026". */
export const longDayText = (iso: string): string => longDays.format(new Date(iso));

const times = new Intl.DateTimeFormat("en", { timeStyle: "medium" });

/** The time of an instant in ISO 8601: "2:05:09 PM". */
export const timeText = (iso: string): string => times.format(new Date(iso));
