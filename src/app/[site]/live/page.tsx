import type { Metadata } from "next";
import { LiveView } from "../../../ui/live/live-view";

export const metadata: Metadata = { title: "Live pages" };

export default function Page() {
  return <LiveView />;
}
