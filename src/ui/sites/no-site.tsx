/** Stands in place of a site that is not there or cannot be opened. */
export function NoSite({ trouble }: { trouble: string }) {
  return (
    <main className="mx-auto max-w-[620px] px-6 py-16">
      <h1 className="text-[22px] font-bold">This site cannot be opened</h1>
      <p role="alert" className="mt-3 text-magenta">
        {trouble}
      </p>
      <p className="mt-4">
        <a href="/" className="underline">
          All sites
        </a>
      </p>
    </main>
  );
}
