/** A time to wait as people say it: "2 min", "3 h 15 min", "2 days". */
export function hoursWords(hours: number): string {
  const minutes = Math.max(1, Math.round(hours * 60));
  if (minutes < 60) return `${String(minutes)} min`;
  if (hours >= 48) return `${String(Math.round(hours / 24))} days`;
  return minutes % 60 === 0 || hours >= 10
    ? `${String(Math.round(hours))} h`
    : `${String(Math.floor(minutes / 60))} h ${String(minutes % 60)} min`;
}
