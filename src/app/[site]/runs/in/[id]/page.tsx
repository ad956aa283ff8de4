import type { Metadata } from "next";
import { ImportView } from "../../../../../ui/runs/import-view";

export const metadata: Metadata = { title: "Import" };

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  return <ImportView id={Number((await params).id)} />;
}
