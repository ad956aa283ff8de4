import type { Metadata } from "next";
import { RunView } from "../../../../ui/runs/run-view";

export const metadata: Metadata = { title: "Run" };

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  return <RunView id={Number((await params).id)} />;
}
