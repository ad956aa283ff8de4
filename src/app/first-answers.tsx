import { dehydrate, HydrationBoundary, QueryClient } from "@tanstack/react-query";
import { headers } from "next/headers";
import { type ReactNode } from "react";
import { sitesApi } from "../server/api-handle";
import type { CallName } from "../server/api/contract";
import type { SiteState } from "../server/site/site-state";
import type { Asked } from "../ui/shell/asked";

/** What Next.js gives a page of a site: which site, and what its address says besides. */
export interface SitePage {
  readonly params: Promise<{ site: string }>;
  readonly searchParams: Promise<Record<string, string | string[] | undefined>>;
}

/**
 * Sends with a view what it asks for first, as far as the answers are there at once: it is drawn with them, and nothing has to be fetched.
 * What is not there is asked for by the view itself. Nothing is worked out for a view that is gone to from another one, or whose address asks
 * for something else than it shows at first.
 *
 * @param ask what the view asks for first, in a site's state, and as its address says where it follows that (`followsAddress`).
 */
export async function FirstAnswers({
  page: { params, searchParams },
  ask,
  followsAddress = false,
  children,
}: {
  readonly page: SitePage;
  readonly ask: (state: SiteState, query: URLSearchParams) => readonly Asked<CallName>[];
  readonly followsAddress?: boolean;
  readonly children: ReactNode;
}) {
  const client = new QueryClient();
  const isOpened = (await headers()).get("sec-fetch-dest") === "document";
  const query = queryOf(await searchParams);
  if (isOpened && (followsAddress || query.size === 0))
    await putAnswers(client, (await params).site, (state) => ask(state, query));
  return <HydrationBoundary state={dehydrate(client)}>{children}</HydrationBoundary>;
}

/** What is said twice is as it was said first. */
function queryOf(params: Record<string, string | string[] | undefined>): URLSearchParams {
  const said = Object.entries(params).map(([name, value]) => [name, Array.isArray(value) ? value[0] : value]);
  return new URLSearchParams(said.filter((pair): pair is [string, string] => pair[1] !== undefined));
}

async function putAnswers(
  client: QueryClient,
  site: string,
  ask: (state: SiteState) => readonly Asked<CallName>[],
): Promise<void> {
  const found = await sitesApi().state(site);
  if ("trouble" in found) return;
  const fetched = ask(found.state).map(async ({ key, name, input }) => {
    const answer = await sitesApi().answerAtOnce(site, name, input);
    if (answer !== undefined) client.setQueryData(key, answer);
  });
  await Promise.all(fetched);
}
