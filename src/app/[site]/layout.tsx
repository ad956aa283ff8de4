import type { Metadata } from "next";
import { type ReactNode } from "react";
import { sitesApi } from "../../server/api-handle";
import { Shell } from "../../ui/shell/shell";
import { NoSite } from "../../ui/sites/no-site";

interface Props {
  readonly params: Promise<{ site: string }>;
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const found = await sitesApi().state((await params).site);
  const name = "state" in found ? found.state.site?.name : undefined;
  return { title: { default: name ?? "No such site", template: `%s · ${name ?? "Nine Lines"}` } };
}

/** A site's screens; where there is no such site, or it cannot be opened, why. */
export default async function Layout({ children, params }: Props & { children: ReactNode }) {
  const { site } = await params;
  const found = await sitesApi().state(site);
  if ("trouble" in found) return <NoSite trouble={found.trouble} />;
  return (
    <Shell key={site} state={found.state}>
      {children}
    </Shell>
  );
}
