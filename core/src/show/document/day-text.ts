/** The day of an event as cards say it, "21 June 2031"; empty where it is not known. */
export function dayText(date: string | null): string {
  if (date === null) return "";
  return new Date(date).toLocaleDateString("en-GB", { timeZone: "UTC", dateStyle: "long" });
}
