/** The application's mark, in the bar. */
export function Mark() {
  return (
    <svg width="19" height="14" viewBox="0 0 19 14" aria-hidden="true" className="mr-2.5 shrink-0">
      <path d="M0 2h19M0 7h14" stroke="currentColor" strokeWidth="2" />
      <path d="M0 12h9" stroke="var(--yellow)" strokeWidth="2" />
    </svg>
  );
}
