import type { Metadata } from "next";
import { sitesApi } from "../server/api-handle";
import { Sites } from "../ui/sites/sites";

export const metadata: Metadata = { title: "Sites" };
export const dynamic = "force-dynamic";

export default function Page() {
  return <Sites initial={sitesApi().list()} />;
}
