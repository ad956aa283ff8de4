/** @example megabytes(13_500_000) // "14 MB" */
export function megabytes(bytes: number): string {
  const mb = bytes / 1_000_000;
  return mb < 1 ? "under 1 MB" : `${Math.round(mb).toLocaleString("en")} MB`;
}
