import type { Metadata } from "next";
import { ConnectionView } from "../../../ui/connection/connection-view";

export const metadata: Metadata = { title: "Connection" };

export default function Page() {
  return <ConnectionView />;
}
